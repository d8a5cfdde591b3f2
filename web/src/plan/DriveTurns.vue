<script setup lang="ts">
import ChoiceField from '../field/ChoiceField.vue'

/** Which of several drives takes the next image. */
const inTurn = defineModel<boolean>({ required: true })
const WAYS = [
  { key: true, label: 'in turn, the oldest image first' },
  { key: false, label: 'whichever ends first' },
]
</script>

<template>
  <ChoiceField v-model="inTurn" label="The next image goes onto these drives" :options="WAYS" />
</template>
