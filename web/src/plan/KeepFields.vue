<script setup lang="ts">
import type { PlanForm } from '../api/types'
import CheckField from '../field/CheckField.vue'
import KeepNumbers from '../retention/KeepNumbers.vue'

/** How long images of the plan are kept. Changes what it is given. */
defineProps<{ keep: PlanForm['keep'] }>()
</script>

<template>
  <div class="keep">
    <CheckField v-model="keep.asOffice" label="Kept as the office does" />
    <KeepNumbers v-if="!keep.asOffice" :keep="keep" of="keep." />
    <CheckField v-model="keep.automatic" label="Release the rest without asking" />
  </div>
</template>

<style scoped>
.keep { display: grid; gap: 6px; }
</style>
