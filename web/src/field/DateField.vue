<script setup lang="ts">
import DatePicker from 'primevue/datepicker'
import { computed, useAttrs, useId } from 'vue'
import { dayAt, dayOf } from '../measure/days'
import FieldFrame from './FieldFrame.vue'
import { useFieldError } from './refusedField'

/** A day, on the wire as 2026-11-27, written and read as "27 Nov 2026" like everywhere; empty for none. */
defineOptions({ inheritAttrs: false })
const props = defineProps<{
  label: string
  hint?: string
  error?: string
  /** What is told to who does not see what the field stands in. */
  ariaLabel?: string
  /** The last day there may be, like the day itself. */
  max?: string
}>()
const day = defineModel<string>({ required: true })
const attrs = useAttrs()
const id = useId()
const wrong = useFieldError(id, attrs.name, () => props.error)
const date = computed({
  get: () => (day.value ? dayAt(day.value) : null),
  set: (chosen) => (day.value = chosen instanceof Date ? dayOf(chosen) : ''),
})
</script>

<template>
  <FieldFrame :id="id" :label="label" :hint="hint" :error="wrong" :class="attrs.class">
    <DatePicker
      v-model="date"
      :input-id="id"
      date-format="d M yy"
      size="small"
      show-icon
      icon-display="input"
      :show-on-focus="false"
      show-button-bar
      :max-date="max ? dayAt(max) : undefined"
      :aria-label="ariaLabel"
      :invalid="!!wrong"
      :required="attrs.required !== undefined"
      :pt="{ panel: { 'aria-label': label } }"
    />
  </FieldFrame>
</template>

<style scoped>
:deep(.p-inputtext) { width: 132px; }
</style>
