<script setup lang="ts">
import InputText from 'primevue/inputtext'
import { useAttrs, useId } from 'vue'
import FieldFrame from './FieldFrame.vue'

/** A day, as 2026-11-27; empty for none. */
defineOptions({ inheritAttrs: false })
defineProps<{ label: string; hint?: string; error?: string }>()
const day = defineModel<string>({ required: true })
const attrs = useAttrs()
const id = useId()
</script>

<template>
  <FieldFrame :id="id" :label="label" :hint="hint" :error="error" :class="attrs.class">
    <InputText v-bind="{ ...attrs, class: undefined }" :id="id" v-model="day" type="date" size="small" :invalid="!!error" />
  </FieldFrame>
</template>
