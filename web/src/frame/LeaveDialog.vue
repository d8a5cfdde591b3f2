<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { asked } from './useUnsaved'

/** Asks whether a page is left with changes that are not saved. Escape stays. */
</script>

<template>
  <Dialog
    :visible="!!asked"
    modal
    :draggable="false"
    header="Leave without saving?"
    :style="{ width: '420px' }"
    @update:visible="asked?.answer(false)"
  >
    <p>You changed {{ asked?.what }} and did not save that.</p>
    <div class="answers">
      <Button label="Stay" autofocus @click="asked?.answer(false)" />
      <Button label="Discard the changes" severity="secondary" outlined @click="asked?.answer(true)" />
    </div>
  </Dialog>
</template>

<style scoped>
p { margin: 0 0 14px; }
.answers { display: flex; gap: 10px; }
</style>
