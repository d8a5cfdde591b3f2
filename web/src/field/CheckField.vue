<script setup lang="ts">
import { useId } from 'vue'

/** Something that is so, or is not. */
defineProps<{ label: string; hint?: string }>()
const on = defineModel<boolean>({ required: true })
const id = useId()
</script>

<template>
  <div class="check">
    <input :id="id" v-model="on" type="checkbox" />
    <label :for="id">{{ label }}</label>
    <small v-if="hint">{{ hint }}</small>
  </div>
</template>

<style scoped>
.check { display: flex; align-items: baseline; gap: 5px; font-size: 13px; }
label, small { color: var(--ink-soft); }
input { accent-color: var(--grain); margin: 0; }
</style>
