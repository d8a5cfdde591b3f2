<script setup lang="ts" generic="T">
import { useId } from 'vue'

/** One of two or three choices, all of them in sight. */
defineProps<{ label: string; options: readonly { key: T; label: string }[]; hint?: string }>()
const chosen = defineModel<T>({ required: true })
const name = useId()
</script>

<template>
  <fieldset class="choice">
    <legend>{{ label }}</legend>
    <label v-for="(option, i) in options" :key="i"
      ><input v-model="chosen" type="radio" :name="name" :value="option.key" /> {{ option.label }}</label
    >
    <small v-if="hint">{{ hint }}</small>
  </fieldset>
</template>

<style scoped>
.choice { border: 0; padding: 0; margin: 0; min-width: 0; display: flex; flex-wrap: wrap; gap: 2px 14px; font-size: 13.5px; }
legend, small { color: var(--ink-soft); font-size: 13px; padding: 0; }
small { width: 100%; }
label { white-space: nowrap; cursor: pointer; }
input { accent-color: var(--grain); margin: 0 3px 0 0; vertical-align: -1px; }
</style>
