<script setup lang="ts">
import { useUnits } from '../measure/useUnits'
import { SPLITS } from './storageChoices'

/** Which blocks are read, what of them is left out, and in how many parts they are stored: rows of a table. */
defineProps<{ leftOutBytes: number }>()
const allBlocks = defineModel<boolean>('allBlocks', { required: true })
const keepSwap = defineModel<boolean>('keepSwap', { required: true })
const splitBytes = defineModel<number | null>('splitBytes', { required: true })
const { size } = useUnits()
</script>

<template>
  <tr>
    <td class="soft">Blocks</td>
    <td>
      <label><input v-model="allBlocks" type="radio" name="blocks" :value="false" /> used ones</label>
      <label><input v-model="allBlocks" type="radio" name="blocks" :value="true" /> all, free ones too</label>
    </td>
  </tr>
  <tr v-if="leftOutBytes && !allBlocks">
    <td class="soft">Swap, page files</td>
    <td>
      <label><input v-model="keepSwap" type="radio" name="swap" :value="false" /> left out, {{ size(leftOutBytes) }}</label>
      <label><input v-model="keepSwap" type="radio" name="swap" :value="true" /> kept</label>
    </td>
  </tr>
  <tr>
    <td class="soft">Stored as</td>
    <td>
      <label v-for="s in SPLITS" :key="s.name"
        ><input v-model="splitBytes" type="radio" name="split" :value="s.bytes" /> {{ s.name }}</label
      >
    </td>
  </tr>
</template>

<style scoped>
td { padding-top: 4px; padding-bottom: 4px; white-space: nowrap; }
td:last-child { white-space: normal; }
label { white-space: nowrap; margin-right: 10px; cursor: pointer; }
input { accent-color: var(--grain); margin: 0 3px 0 0; vertical-align: -1px; }
</style>
