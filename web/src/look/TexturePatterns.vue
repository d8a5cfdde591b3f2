<script setup lang="ts">
/* The textures of strips and bins, defined once and used by name: they read in print and without colour. */
</script>

<template>
  <svg width="0" height="0" aria-hidden="true" style="position: absolute">
    <defs>
      <pattern id="ruled" width="8" height="5" patternUnits="userSpaceOnUse">
        <rect width="8" height="5" fill="var(--sheet)" />
        <path d="M0 4.5H8" stroke="var(--stored)" stroke-width="0.8" />
      </pattern>
      <pattern id="hatched" width="6" height="6" patternUnits="userSpaceOnUse">
        <rect width="6" height="6" fill="var(--sheet)" />
        <path d="M0 0L6 6M6 0L0 6" stroke="var(--used)" stroke-width="0.7" />
      </pattern>
      <pattern id="dotted" width="5" height="5" patternUnits="userSpaceOnUse">
        <rect width="5" height="5" fill="var(--sheet)" />
        <circle cx="2.5" cy="2.5" r="1" fill="var(--used)" />
      </pattern>
      <pattern id="stored" width="4" height="4" patternUnits="userSpaceOnUse">
        <rect width="4" height="4" fill="var(--stored)" />
        <circle cx="1" cy="1" r="0.6" fill="var(--stored-ink)" />
        <circle cx="3" cy="3" r="0.6" fill="var(--stored-ink)" />
      </pattern>
      <pattern id="promised" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="7" height="7" fill="var(--sheet)" />
        <path d="M0 0V7" stroke="var(--stored-ink)" stroke-width="3" />
      </pattern>
      <pattern id="overflow" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(-45)">
        <rect width="6" height="6" fill="var(--sheet)" />
        <path d="M0 0V6" stroke="var(--brick)" stroke-width="4" />
      </pattern>
    </defs>
  </svg>
</template>
