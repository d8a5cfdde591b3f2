<script setup lang="ts">
import { computed, ref } from 'vue'
import type { ReleaseLine } from '../api/types'
import { useUnits } from '../measure/useUnits'
import { formatAge, formatMoment } from '../measure/times'

const props = defineProps<{ released: ReleaseLine[]; mayAct: boolean; now: number }>()
const emit = defineEmits<{ back: [id: string]; again: [] }>()
const { size } = useUnits()
const all = ref(false)
const OPEN = ['waiting', 'trash', 'failed']
const shown = computed(() => props.released.filter((r) => all.value || OPEN.includes(r.state)))
const WORDS: Record<string, string> = {
  waiting: 'waits for its drive',
  trash: 'in the trash',
  failed: 'could not be moved',
  'taken-back': 'taken back',
  emptied: 'gone for good',
}
</script>

<template>
  <section class="trash">
    <h2>Released</h2>
    <table v-if="shown.length">
      <tbody>
        <tr v-for="r in shown" :key="r.id">
          <td>
            <RouterLink :to="`/images/${r.imageId}`">{{ r.name }}</RouterLink>
          </td>
          <td>{{ r.disk }}</td>
          <td>{{ r.destination }}</td>
          <td class="number">{{ size(r.bytes) }}</td>
          <td>{{ formatAge(r.askedAt, now) }} by {{ r.askedBy }}</td>
          <td :class="r.state === 'failed' ? 'brick' : ''">
            {{ WORDS[r.state] }}<span v-if="r.emptiedOn" class="soft">, until {{ formatMoment(r.emptiedOn) }}</span
            ><span v-if="r.trouble">: {{ r.trouble }}</span>
          </td>
          <td class="number">
            <button v-if="mayAct && OPEN.includes(r.state)" type="button" class="figure" @click="emit('back', r.id)">Take it back</button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else class="soft small">Nothing lies in the trash of a drive.</p>
    <p class="small">
      <label><input v-model="all" type="checkbox" /> also what you took back and what is gone</label>
      <button v-if="mayAct && shown.some((r) => r.state === 'failed')" type="button" class="figure" @click="emit('again')">
        Try again what failed
      </button>
    </p>
  </section>
</template>

<style scoped>
.trash { margin-top: 26px; }
h2 { font-size: 19px; margin: 0 0 4px; }
</style>
