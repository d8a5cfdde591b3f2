<script setup lang="ts">
import { computed, reactive, ref } from 'vue'
import { sentenceOf } from '../api/client'
import CheckField from '../field/CheckField.vue'
import NumberField from '../field/NumberField.vue'
import { useUnits } from '../measure/useUnits'
import HistoryPlot from '../measure/HistoryPlot.vue'
import { useOutlook } from '../query/retention'

/** The coming year of every destination, by the rules as they are or as they might be. */
const { size } = useUnits()
const trying = ref(false)
const trial = reactive({ last: 0, daily: 7, weekly: 4, monthly: 12, yearly: 0, maximumDays: 0 })
const COUNTS = [
  { key: 'last', name: 'last' },
  { key: 'daily', name: 'days' },
  { key: 'weekly', name: 'weeks' },
  { key: 'monthly', name: 'months' },
  { key: 'yearly', name: 'years' },
  { key: 'maximumDays', name: 'days at most' },
] as const
const query = computed(() => (trying.value ? { ...trial } : {}))
const outlook = useOutlook(query)
</script>

<template>
  <section class="outlook">
    <h2>The coming year</h2>
    <p class="small soft">
      Every plan keeps its rhythm, each image is as big as the last one and is proven, and what no rule keeps goes that night.
    </p>
    <div class="try">
      <CheckField v-model="trying" label="What if every disk kept" />
      <template v-if="trying">
        <NumberField
          v-for="c in COUNTS"
          :key="c.key"
          v-model="trial[c.key]"
          :label="`Try: ${c.name}`"
          min="0"
          :max="c.key === 'maximumDays' ? 9999 : 999"
        />
      </template>
    </div>
    <p v-if="outlook.error.value" class="notice" role="alert">{{ sentenceOf(outlook.error.value) }}</p>
    <p v-if="outlook.data.value?.policy" class="small">{{ outlook.data.value.policy }}</p>
    <div class="drives">
      <article v-for="d in outlook.data.value?.destinations" :key="d.id">
        <HistoryPlot
          :title="`${d.name}, images`"
          :points="d.points.map((p) => ({ at: `${p.day}T12:00:00Z`, bytes: p.bytes }))"
          :limit-bytes="(d.points[0]?.bytes ?? 0) + d.freeBytes"
        />
        <p class="small" :class="d.refuses ? 'brick' : ''">{{ d.sentence }}</p>
        <ul v-if="d.advice.length" class="small">
          <li v-for="a in d.advice" :key="a">{{ a }}</li>
        </ul>
        <p v-else class="small soft">{{ size(d.freeBytes) }} free now.</p>
      </article>
    </div>
    <p v-if="outlook.data.value?.uncounted.length" class="small soft">
      Not counted, since there is no image yet to go by: {{ outlook.data.value.uncounted.join(', ') }}.
    </p>
  </section>
</template>

<style scoped>
.outlook { margin-top: 30px; }
h2 { font-size: 19px; margin: 0; }
.try { display: flex; gap: 12px; flex-wrap: wrap; font-size: 13.5px; margin: 8px 0; align-items: end; }
.drives { display: grid; grid-template-columns: repeat(3, 1fr); gap: 18px 26px; margin-top: 8px; }
ul { margin: 4px 0 0; padding-left: 18px; }
</style>
