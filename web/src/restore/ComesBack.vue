<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import { formatMoment, formatRange } from '../measure/times'
import { useCards } from '../query/today'

/** Which computers could come back, as of when, from where, in how long: the answer first, and one key away. */
const emit = defineEmits<{ bring: [computer: string] }>()
const cards = useCards()
const all = computed(() => cards.data.value?.cards ?? [])
const able = computed(() => all.value.filter((card) => card.disks.some((d) => d.image)))
const slowest = computed(() => Math.max(0, ...able.value.map((card) => card.highMinutes)))
const back = (minutes: number) => formatRange(minutes * 60, minutes * 60)
</script>

<template>
  <section v-if="able.length" class="screen">
    <h2 class="section">Which computer comes back?</h2>
    <p class="soft small">
      {{ able.length }} of {{ all.length }} could be back today, the slowest in about {{ back(slowest) }}. You choose the disk it goes onto;
      nothing is written before you typed its serial.
    </p>
    <table>
      <thead>
        <tr>
          <th>Computer</th>
          <th>Comes back as of</th>
          <th>From</th>
          <th class="number">Back in</th>
          <td></td>
        </tr>
      </thead>
      <tbody>
        <tr v-for="card in able" :key="card.computerId">
          <td>
            <b>{{ card.computer }}</b>
            <div class="soft small">{{ card.role }}{{ card.owner ? `, ${card.owner}` : '' }}</div>
          </td>
          <td>
            <div v-for="d in card.disks" :key="d.disk">
              <template v-if="d.asOf">{{ formatMoment(d.asOf) }}</template
              ><span v-else class="brick">no image</span
              ><span class="soft small">{{ card.disks.length > 1 ? ` ${d.disk}` : '' }}{{ d.proven ? `, ${d.proven}` : '' }}</span>
            </div>
          </td>
          <td>
            <div v-for="d in card.disks" :key="d.disk">
              <span class="small">{{ d.lies }}</span>
            </div>
          </td>
          <td class="number">{{ formatRange(card.lowMinutes * 60, card.highMinutes * 60) }}</td>
          <td>
            <Button
              label="Bring it back"
              size="small"
              severity="secondary"
              outlined
              :aria-label="`Bring ${card.computer} back`"
              @click="emit('bring', card.computer)"
            />
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
section { margin-bottom: 22px; }
th { text-align: left; font-weight: 400; color: var(--ink-soft); font-size: 13px; }
th.number { text-align: right; }
td { vertical-align: top; }
</style>
