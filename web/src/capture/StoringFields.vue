<script setup lang="ts">
import { computed } from 'vue'
import ChoiceField from '../field/ChoiceField.vue'
import { useUnits } from '../measure/useUnits'
import { SPLITS } from './storageChoices'

/** Which blocks are read, what of them is left out, in how many parts they are stored, and whether only a passphrase opens them. */
const props = defineProps<{ leftOutBytes: number }>()
const allBlocks = defineModel<boolean>('allBlocks', { required: true })
const keepSwap = defineModel<boolean>('keepSwap', { required: true })
const splitBytes = defineModel<number | null>('splitBytes', { required: true })
const encrypted = defineModel<boolean>('encrypted', { required: true })
const { size } = useUnits()
const BLOCKS = [
  { key: false, label: 'used ones' },
  { key: true, label: 'all, free ones too' },
]
const PARTS = SPLITS.map((s) => ({ key: s.bytes, label: s.name }))
const SECRET = [
  { key: false, label: 'none' },
  { key: true, label: 'with a passphrase' },
]
const swap = computed(() => [
  { key: false, label: `left out, ${size(props.leftOutBytes)}` },
  { key: true, label: 'kept' },
])
</script>

<template>
  <div class="storing">
    <ChoiceField v-model="allBlocks" label="Blocks" :options="BLOCKS" />
    <ChoiceField v-if="leftOutBytes && !allBlocks" v-model="keepSwap" label="Swap and page files" :options="swap" />
    <ChoiceField v-model="splitBytes" label="Stored as" :options="PARTS" />
    <ChoiceField v-model="encrypted" label="Encryption" :options="SECRET" />
    <slot />
  </div>
</template>

<style scoped>
.storing { display: grid; gap: 10px; align-content: start; }
</style>
