<script setup lang="ts">
/** A form's field: its label above, the control, what helps to fill it in, and what is wrong with it. The control takes the ids. */
defineProps<{ id: string; label: string; hint?: string; error?: string }>()
</script>

<template>
  <div class="field">
    <label :id="`${id}-label`" :for="id">{{ label }}</label>
    <slot />
    <small v-if="hint && !error" :id="`${id}-hint`" class="hint">{{ hint }}</small>
    <small v-if="error" :id="`${id}-error`" class="brick" role="alert">{{ error }}</small>
  </div>
</template>

<style scoped>
.field { display: flex; flex-direction: column; gap: 2px; min-width: 0; font-size: 13px; }
label, .hint { color: var(--ink-soft); }
</style>
