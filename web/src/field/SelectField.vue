<script setup lang="ts" generic="T">
import Select from 'primevue/select'
import { useAttrs, useId } from 'vue'
import FieldFrame from './FieldFrame.vue'
import { useFieldError } from './refusedField'

/** One of a few choices, each with its key and the words for it. */
defineOptions({ inheritAttrs: false })
const props = defineProps<{
  label: string
  options: readonly { key: T; label: string; disabled?: boolean }[]
  hint?: string
  error?: string
}>()
const chosen = defineModel<T>({ required: true })
const attrs = useAttrs()
const id = useId()
const wrong = useFieldError(id, attrs.name, () => props.error)
</script>

<template>
  <FieldFrame :id="id" :label="label" :hint="hint" :error="wrong" :class="attrs.class">
    <Select
      v-bind="{ ...attrs, class: undefined }"
      v-model="chosen"
      :label-id="id"
      :aria-label="String(attrs['aria-label'] ?? label)"
      :options="[...options]"
      option-label="label"
      option-value="key"
      :option-disabled="(option) => option.disabled === true"
      size="small"
      :invalid="!!wrong"
    >
      <!-- an empty key is a choice like any other, and has its words -->
      <template #value>{{ options.find((option) => option.key === chosen)?.label ?? attrs.placeholder ?? '\u00a0' }}</template>
    </Select>
  </FieldFrame>
</template>
