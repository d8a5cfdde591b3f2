<script setup lang="ts">
import { computed } from 'vue'
import type { MediumLine } from '../api/types'
import { formatAge } from '../measure/times'
import { startsOf, type Started } from './startsOf'

/** Which computers a medium is known to start, and which key opens their boot menus. */
const props = defineProps<{ medium: MediumLine; computers: readonly { name: string; bootKey: string }[]; now: number }>()
const rows = computed(() => startsOf(props.medium.tests, props.computers))
const WORDS: Record<Started, string> = {
  starts: 'started',
  'does-not': 'did not start',
  'before-written': 'started, before it was written anew',
  'not-tried': 'not tried',
}
</script>

<template>
  <table class="starts">
    <caption class="visually-hidden">
      Computers started with
      {{
        medium.name
      }}
    </caption>
    <tbody>
      <tr v-for="r in rows" :key="r.name">
        <th scope="row">{{ r.name }}</th>
        <td class="soft">{{ r.bootKey ? `boot menu: ${r.bootKey}` : 'boot-menu key not known' }}</td>
        <td :class="{ moss: r.state === 'starts', brick: r.state === 'does-not', soft: r.state === 'not-tried' }">
          {{ WORDS[r.state] }}<template v-if="r.at">, {{ formatAge(r.at, now) }}</template>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.starts { columns: 2; display: block; column-gap: 36px; font-size: 13.5px; margin: 0 0 8px; }
.starts tbody { display: contents; }
tr { display: grid; grid-template-columns: 110px 150px 1fr; break-inside: avoid; border-bottom: 1px solid var(--rule-soft); }
th { text-align: left; font-weight: 600; color: var(--ink); }
th, td { padding: 2.5px 0; border: 0; }
@media (max-width: 1150px) {
  .starts { columns: 1; }
}
</style>
