<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { sentenceOf } from '../api/client'
import type { PlanLine } from '../api/types'
import { useComputers } from '../computer/useComputers'
import TextField from '../field/TextField.vue'
import PageHeading from '../frame/PageHeading.vue'
import { counted } from '../measure/counted'
import { useNow } from '../measure/useNow'
import { formatAge, formatDay } from '../measure/times'
import { useSession } from '../session/useSession'
import PlanImport from './PlanImport.vue'
import PickDisk from './PickDisk.vue'
import { byDue, dueWords } from './planWords'
import { usePlans } from '../query/plans'
import { usePageKeys } from '../keys/pageKeys'

const router = useRouter()
const { mayAct } = useSession()
const { computers } = useComputers()
const now = useNow(60_000)
const filter = ref('')
const making = ref(false)
const importing = ref(false)
const list = usePlans()
const plans = computed(() => list.data.value ?? [])
const shown = computed(() => {
  const words = filter.value.toLowerCase().split(/\s+/)
  return byDue(plans.value).filter((p) =>
    words.every((word) => `${p.name} ${p.computer} ${p.disk} ${p.drives} ${p.often} ${p.state}`.toLowerCase().includes(word)),
  )
})
const unplanned = computed(() => {
  const planned = new Set(plans.value.filter((p) => p.state !== 'paused').map((p) => p.diskId))
  return computers.value
    .filter((c) => !c.retired)
    .flatMap((c) => c.disks.filter((d) => !planned.has(d.id)).map((d) => ({ id: d.id, label: `${c.name}, ${d.name}` })))
})
const summary = computed(() => {
  const count = (state: string) => plans.value.filter((p) => p.state === state).length
  const due = count('tonight')
  const late = count('overdue')
  const without = unplanned.value.length ? `${counted(unplanned.value.length, 'disk has', 'disks have')} none.` : 'Every disk has one.'
  return `${counted(plans.value.length, 'plan')}; ${due} due tonight${late ? `, ${late} overdue` : ''}. ${without}`
})

const open = (plan: PlanLine) => router.push(`/plans/${plan.id}`)
usePageKeys(['Tab', 'from plan to plan'], ['Enter', 'open it'])
</script>

<template>
  <PageHeading title="Plans"
    ><template v-if="list.data.value">{{ summary }}</template>
    <template #action>
      <div class="tools">
        <Button
          as="a"
          href="/api/v1/plans/calendar"
          download
          label="Calendar file"
          severity="secondary"
          outlined
          title="What is due in the next three months, for any calendar program"
        />
        <Button label="Import a plan" severity="secondary" outlined :disabled="!mayAct" @click="importing = !importing" />
        <Button label="New plan" :disabled="!mayAct" @click="making = !making" />
      </div>
    </template>
  </PageHeading>
  <p v-if="list.error.value" class="notice" role="alert">{{ sentenceOf(list.error.value) }}</p>
  <PickDisk
    v-if="making"
    question="A plan for which disk?"
    action="Begin the plan"
    @pick="(id) => router.push(`/plans/new/${id}`)"
    @leave="making = false"
  />
  <PlanImport v-if="importing" @leave="importing = false" />
  <template v-if="plans.length">
    <TextField v-model="filter" class="filter" label="Find a plan" data-filter placeholder="Name, disk or drive ( / )" />
    <table>
      <thead>
        <tr>
          <th>Next image</th>
          <th>Plan</th>
          <th>How often</th>
          <th>When</th>
          <th>Drives</th>
          <th>Kept</th>
          <th>Last image</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="p in shown" :key="p.id" tabindex="0" @click="open(p)" @keydown.enter="open(p)">
          <td :class="{ brick: p.state === 'overdue', soft: p.state === 'paused' || p.state === 'by-hand' }">
            <span v-if="p.state === 'overdue'" class="mark" aria-hidden="true">▸ </span>{{ dueWords(p, formatDay) }}
          </td>
          <td>
            <b>{{ p.name }}</b><br /><span class="soft"
              >{{ p.computer }}, {{ p.disk }}<template v-if="!p.diskThere">: not in this office any more</template></span
            >
          </td>
          <td>{{ p.often }}</td>
          <td>{{ p.when.replace('between ', '').replace(' and ', ' to ') }}</td>
          <td>{{ p.drives }}</td>
          <td>{{ p.kept }}</td>
          <td>{{ p.lastImageAt ? formatAge(p.lastImageAt, now) : 'never' }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="!shown.length" class="empty">No plan matches "{{ filter }}". Clear the filter to see all.</p>
  </template>
  <p v-else-if="!list.isPending.value" class="empty">
    Plans belong here: which disk, how often, in which hours, to which drives. Begin with the computer that would be missed most.
  </p>
  <p v-if="plans.length && unplanned.length" class="soft small">
    Without a plan:
    <template v-for="(d, i) in unplanned" :key="d.id"
      ><RouterLink :to="`/plans/new/${d.id}`">{{ d.label }}</RouterLink
      >{{ i < unplanned.length - 1 ? '; ' : '' }}</template
    >
  </p>
</template>

<style scoped>
.tools { display: flex; gap: 12px; }
.tools a { text-decoration: none; }
.filter { width: 240px; margin-bottom: 10px; }
tbody tr { cursor: pointer; }
tbody tr:hover td { background: var(--wash); }
td:first-child { white-space: nowrap; padding-left: 6px; }
th:first-child { padding-left: 6px; }
td:nth-child(3), td:nth-child(4), th { white-space: nowrap; }
</style>
