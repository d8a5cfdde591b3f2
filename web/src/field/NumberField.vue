<script setup lang="ts">
import InputText from 'primevue/inputtext'
import { useAttrs, useId } from 'vue'
import FieldFrame from './FieldFrame.vue'

/** A whole number with its unit behind it. Its least and most go to the input. What is no number is told by the server. */
defineOptions({ inheritAttrs: false })
defineProps<{ label: string; unit?: string; hint?: string; error?: string }>()
const figure = defineModel<number>({ required: true })
const attrs = useAttrs()
const id = useId()
</script>

<template>
  <FieldFrame :id="id" :label="label" :hint="hint" :error="error" :class="attrs.class">
    <span class="figure-with-unit"
      ><InputText
        v-bind="{ ...attrs, class: undefined }"
        :id="id"
        :model-value="String(figure)"
        type="number"
        size="small"
        :invalid="!!error"
        @update:model-value="figure = Number($event)"
      /><span v-if="unit" class="soft">{{ unit }}</span></span
    >
  </FieldFrame>
</template>

<style scoped>
.figure-with-unit { display: inline-flex; gap: 6px; align-items: baseline; white-space: nowrap; }
.p-inputtext { width: 70px; font-variant-numeric: tabular-nums; }
</style>
