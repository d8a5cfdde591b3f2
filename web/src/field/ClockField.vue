<script setup lang="ts">
import InputText from 'primevue/inputtext'
import { useAttrs, useId } from 'vue'
import { toClock } from '../measure/clock'
import FieldFrame from './FieldFrame.vue'
import { useFieldError } from './refusedField'

/** A time of day by the office's clock, typed: a browser's own field would show it as its language does. */
defineOptions({ inheritAttrs: false })
const props = defineProps<{ label: string; hint?: string; error?: string }>()
const time = defineModel<string>({ required: true })
const attrs = useAttrs()
const id = useId()
const wrong = useFieldError(id, attrs.name, () => props.error)
</script>

<template>
  <FieldFrame :id="id" :label="label" :hint="hint" :error="wrong" :class="attrs.class">
    <InputText
      v-bind="{ ...attrs, class: undefined }"
      :id="id"
      :model-value="time"
      inputmode="numeric"
      maxlength="8"
      size="small"
      class="clock"
      :invalid="!!wrong"
      @change="time = toClock(($event.target as HTMLInputElement).value)"
    />
  </FieldFrame>
</template>

<style scoped>
.clock { width: 70px; font-variant-numeric: tabular-nums; }
</style>
