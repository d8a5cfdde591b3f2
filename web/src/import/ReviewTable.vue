<script setup lang="ts">
import type { ImportReview } from '../api/types'

defineProps<{ review: ImportReview }>()
const WORDS: Record<string, string> = {
  'new-computer': 'new computer',
  'new-disk': 'new disk',
  'disk-swapped': 'disk swapped',
  'disk-moved': 'disk moved',
  'disk-gone': 'disk gone',
  'partition-new': 'new partition',
  'partition-gone': 'partition gone',
  'partition-resized': 'partition resized',
  'file-system-changed': 'file system changed',
  'used-changed': 'used bytes',
  'fact-changed': 'fact',
}
</script>

<template>
  <div role="status">
    <p v-for="o in review.objections" :key="o.sentence" class="notice">
      <b v-if="o.line">Line {{ o.line }}: </b>{{ o.sentence }}
    </p>
    <table v-if="review.changes.length">
      <thead>
        <tr>
          <th>What</th>
          <th>Computer</th>
          <th>Change</th>
          <th class="number">Line</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(c, i) in review.changes" :key="i" :class="{ grave: c.grave }">
          <td class="kind">{{ c.grave ? '▲ ' : '' }}{{ WORDS[c.kind] ?? c.kind }}</td>
          <td>{{ c.computer }}</td>
          <td>{{ c.sentence }}</td>
          <td class="number soft">{{ c.line ?? '' }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="review.changes.some((c) => c.grave)" class="soft small">
      ▲ look twice: what earlier images hold may no longer be what is there.
    </p>
    <p v-for="note in review.notes" :key="note" class="soft small">{{ note }}</p>
  </div>
</template>

<style scoped>
.kind { white-space: nowrap; }
.grave .kind { color: var(--brick); font-weight: 600; }
</style>
