<script setup lang="ts">
/** Which of several drives takes the next image. */
defineProps<{ locked: boolean }>()
const inTurn = defineModel<boolean>({ required: true })
</script>

<template>
  <p class="turns">
    <label><input v-model="inTurn" type="radio" name="turn" :value="true" :disabled="locked" /> in turn, the oldest image first</label>
    <label><input v-model="inTurn" type="radio" name="turn" :value="false" :disabled="locked" /> whichever ends first</label>
  </p>
</template>

<style scoped>
.turns { font-size: 13.5px; margin-top: 8px; }
.turns label { margin-right: 14px; white-space: nowrap; }
input[type='radio'] { accent-color: var(--grain); margin: 0 3px 0 0; vertical-align: -1px; }
</style>
