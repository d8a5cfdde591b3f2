<script setup lang="ts">
defineProps<{ title: string }>()
</script>

<template>
  <header class="heading">
    <div>
      <h1>{{ title }}</h1>
      <p class="summary"><slot /></p>
    </div>
    <div class="action"><slot name="action" /></div>
  </header>
</template>

<style scoped>
.heading { display: flex; justify-content: space-between; align-items: flex-start; gap: 24px; margin-bottom: 20px; }
.summary { color: var(--ink-soft); font-size: 16px; margin-top: 6px; min-height: 23px; }
.action { flex: none; }
</style>
