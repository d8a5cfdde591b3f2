<template>
  <span class="texture-key soft small">
    <svg width="18" height="12"><rect width="18" height="12" fill="var(--used)" /></svg> read
    <svg width="18" height="12"><rect width="18" height="12" fill="url(#ruled)" stroke="var(--rule)" /></svg> free
    <svg width="18" height="12"><rect width="18" height="12" fill="url(#dotted)" stroke="var(--rule)" /></svg> left out
    <svg width="18" height="12"><rect width="18" height="12" fill="url(#hatched)" stroke="var(--rule)" /></svg> hidden, read
  </span>
</template>

<style scoped>
.texture-key { display: inline-flex; gap: 6px; align-items: center; white-space: nowrap; }
svg:not(:first-child) { margin-left: 10px; }
</style>
