<script setup lang="ts">
import Textarea from 'primevue/textarea'
import { useAttrs, useId } from 'vue'
import FieldFrame from './FieldFrame.vue'
import { useFieldError } from './refusedField'

/** Several lines of text. */
defineOptions({ inheritAttrs: false })
const props = defineProps<{ label: string; hint?: string; error?: string }>()
const text = defineModel<string>({ required: true })
const attrs = useAttrs()
const id = useId()
const wrong = useFieldError(id, attrs.name, () => props.error)
</script>

<template>
  <FieldFrame :id="id" :label="label" :hint="hint" :error="wrong" :class="attrs.class">
    <Textarea v-bind="{ ...attrs, class: undefined }" :id="id" v-model="text" size="small" auto-resize :invalid="!!wrong" />
  </FieldFrame>
</template>
