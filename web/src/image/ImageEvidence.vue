<script setup lang="ts">
import type { ImageCheck } from '../api/types'
import { useUnits } from '../measure/useUnits'
import { formatMoment, formatSeconds } from '../measure/times'

/** Every check of one copy, newest first. */
const props = defineProps<{ checks: readonly ImageCheck[]; destination: string; format: string; partitions: number }>()
const { size } = useUnits()
const MEANING: Record<string, string> = {
  complete: 'all parts there, of the right length',
  sound: 'every stored byte matches its SHA-256',
  readable:
    props.format === 'granary'
      ? 'every digest matches and every frame decodes to what was read'
      : props.partitions
        ? 'all of it unpacks, with the partition table it was added with'
        : 'all of it unpacks',
  rehearsed: 'restored to a scratch file, which is what was read of the disk',
  booted: 'signed by a person',
}
/** Names beyond these are listed on request. */
const FIRST = 8
</script>

<template>
  <table>
    <thead>
      <tr>
        <th>When, on {{ destination }}</th>
        <th>By</th>
        <th>Found</th>
        <th class="number">Read, took</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="c in checks" :key="c.checkedAt">
        <td class="nowrap" :title="c.checkedAt">{{ formatMoment(c.checkedAt) }}</td>
        <td>{{ c.checkedBy }}</td>
        <td>
          <span :class="c.ok ? 'moss' : 'brick'">{{ c.ok ? c.level : 'damaged' }}</span><template v-if="c.ok"
            >: {{ MEANING[c.level] }}</template
          ><template v-if="c.note">. {{ c.level === 'booted' ? 'Looked at: ' : '' }}{{ c.note }}</template>
          <p v-for="(p, i) in c.problems" :key="i" class="problem">{{ p.message }}</p>
          <div v-for="l in c.lost" :key="l.partition" class="problem">
            <p v-if="l.hit.count">
              <b>{{ l.hit.count }} {{ l.hit.count === 1 ? 'file lies' : 'files lie' }} on it</b>, in {{ l.partition }}:
            </p>
            <ul>
              <li v-for="path in l.hit.paths.slice(0, FIRST)" :key="path">{{ path }}</li>
            </ul>
            <details v-if="l.hit.paths.length > FIRST">
              <summary>{{ l.hit.count - FIRST }} more</summary>
              <ul>
                <li v-for="path in l.hit.paths.slice(FIRST)" :key="path">{{ path }}</li>
              </ul>
            </details>
            <p v-if="l.hit.note" class="soft">{{ l.hit.note }}</p>
            <p v-else-if="!l.hit.count" class="soft">No file of {{ l.partition }} lies on it.</p>
          </div>
          <p v-if="c.good" class="problem">{{ c.good }}</p>
        </td>
        <td class="number">
          {{ c.level === 'booted' ? '' : size(c.readBytes) }}<template v-if="c.seconds >= 1">, {{ formatSeconds(c.seconds) }}</template>
        </td>
      </tr>
    </tbody>
  </table>
  <p v-if="!checks.length" class="empty">It is not proven yet. Check it: complete takes a moment, readable reads all of it.</p>
</template>

<style scoped>
.nowrap { white-space: nowrap; }
.problem { margin-top: 5px; }
ul { margin: 2px 0; padding-left: 18px; }
li { overflow-wrap: anywhere; }
</style>
