<script setup lang="ts">
import InputText from 'primevue/inputtext'
import { useAttrs, useId } from 'vue'
import FieldFrame from './FieldFrame.vue'
import { useFieldError } from './refusedField'

/** A whole number with its unit behind it. Its least and most go to the input. What is no number is told by the server. */
defineOptions({ inheritAttrs: false })
const props = defineProps<{ label: string; unit?: string; hint?: string; error?: string }>()
const figure = defineModel<number>({ required: true })
const attrs = useAttrs()
const id = useId()
const wrong = useFieldError(id, attrs.name, () => props.error)
</script>

<template>
  <FieldFrame :id="id" :label="label" :hint="hint" :error="wrong" :class="attrs.class">
    <span class="figure-with-unit"
      ><InputText
        v-bind="{ ...attrs, class: undefined }"
        :id="id"
        :model-value="String(figure)"
        type="number"
        size="small"
        :invalid="!!wrong"
        @update:model-value="figure = Number($event)"
      /><span v-if="unit" class="soft">{{ unit }}</span></span
    >
  </FieldFrame>
</template>

<style scoped>
.figure-with-unit { display: inline-flex; gap: 6px; align-items: baseline; white-space: nowrap; }
.p-inputtext { width: 70px; font-variant-numeric: tabular-nums; }
</style>
