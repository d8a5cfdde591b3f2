<script setup lang="ts">
import NumberField from '../field/NumberField.vue'

/** How often images are restored for practice without anybody asking. */
const days = defineModel<number>({ required: true })
</script>

<template>
  <section>
    <h2 class="section">Rehearsals</h2>
    <div class="line">
      <NumberField
        v-model="days"
        name="days"
        label="Every disk's newest image is restored for practice every"
        unit="days, when nobody works (0: only by hand)"
        min="0"
        max="365"
      />
    </div>
  </section>
</template>
