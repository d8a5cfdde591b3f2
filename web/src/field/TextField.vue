<script setup lang="ts">
import InputText from 'primevue/inputtext'
import { computed, useAttrs, useId } from 'vue'
import FieldFrame from './FieldFrame.vue'
import { useFieldError } from './refusedField'

/** A line of text. What else is said of it goes to the input: its type, its most characters, an example. */
defineOptions({ inheritAttrs: false })
const props = defineProps<{ label: string; hint?: string; error?: string }>()
const text = defineModel<string>({ required: true })
const attrs = useAttrs()
const id = useId()
const wrong = useFieldError(id, attrs.name, () => props.error)
const told = computed(() => (wrong.value ? `${id}-error` : props.hint ? `${id}-hint` : undefined))
</script>

<template>
  <FieldFrame :id="id" :label="label" :hint="hint" :error="wrong" :class="attrs.class">
    <InputText v-bind="{ ...attrs, class: undefined }" :id="id" v-model="text" size="small" :invalid="!!wrong" :aria-describedby="told" />
  </FieldFrame>
</template>
