<script setup lang="ts">
import type { CardLine } from '../api/types'
import { formatMoment, formatRange } from '../measure/times'

/** One computer's card: what one gets back, from where, with what, in which order. One printed page. */
defineProps<{ card: CardLine }>()
</script>

<template>
  <article class="card">
    <h2>
      {{ card.computer }} <span class="soft">{{ [card.role, card.owner].filter(Boolean).join(', ') }}</span>
    </h2>
    <p v-if="card.highMinutes" class="time serif">Back in about {{ formatRange(card.lowMinutes * 60, card.highMinutes * 60) }}</p>
    <div v-if="card.inTheWay.length" class="way">
      <b>What stands in the way</b>
      <ul>
        <li v-for="w in card.inTheWay" :key="w">{{ w }}</li>
      </ul>
    </div>
    <dl>
      <template v-for="d in card.disks" :key="d.disk">
        <dt>
          {{ d.disk }} <span class="soft">{{ d.identity }}</span>
        </dt>
        <dd v-if="d.image">
          You get back <b>{{ d.image }}</b>, as of <b>{{ formatMoment(d.asOf!) }}</b>, {{ d.proven }}. It lies on <b>{{ d.lies }}</b>.
        </dd>
        <dd v-else class="brick">No image.</dd>
        <dd class="small">Lost: {{ d.lost }}</dd>
      </template>
      <dt>Boot it with</dt>
      <dd>{{ card.stick }}</dd>
      <template v-if="card.key"
        ><dt>Key</dt>
        <dd>{{ card.key }}</dd></template
      >
    </dl>
    <h3>In this order</h3>
    <ol>
      <li v-for="s in card.steps" :key="s">{{ s }}</li>
    </ol>
  </article>
</template>

<style scoped>
.card { border-top: 2px solid var(--ink); padding-top: 10px; margin-bottom: 34px; max-width: 860px; break-after: page; }
h2 { font-size: 24px; margin: 0; }
h2 .soft { font-size: 16px; font-weight: 400; }
.time { font-size: 18px; margin: 2px 0 8px; }
.way { border-left: 3px solid var(--brick); padding-left: 12px; margin: 8px 0; }
ul, ol { margin: 2px 0 0; padding-left: 20px; }
li { margin: 2px 0; }
dt { color: var(--ink); font-weight: 600; margin-top: 8px; }
dt .soft { font-weight: 400; }
dd { margin: 0; }
h3 { margin: 12px 0 0; }
@media print {
  .card { max-width: none; font-size: 12.5px; }
}
</style>
