<script setup lang="ts">
import Button from 'primevue/button'
import { computed, nextTick, ref } from 'vue'
import { client, sentenceOf } from '../api/client'
import { useAction } from '../api/useAction'
import PageHeading from '../frame/PageHeading.vue'
import { useUnits } from '../measure/useUnits'
import GrainMark from '../proof/GrainMark.vue'
import TallyMark from '../proof/TallyMark.vue'
import { formatAge, formatMoment } from '../measure/times'
import { useNow } from '../measure/useNow'
import { useSession } from '../session/useSession'
import OutlookSection from './OutlookSection.vue'
import RetentionMatrix from './RetentionMatrix.vue'
import TrashTable from './TrashTable.vue'
import { useChanged } from '../query/ask'
import { useRetention } from '../query/retention'

/** What the rules keep and let go, image by image; releasing what goes, asked once, with the list; the trash; the coming year. */
const { size } = useUnits()
const { mayAct } = useSession()
const now = useNow(60_000)
const changed = useChanged()
const open = ref(new Set<string>())
const asking = ref(false)
const left = ref(new Set<string>())
const run = useRetention()
const disks = computed(() => run.data.value?.disks ?? [])
const going = computed(() =>
  disks.value.flatMap((d) => d.images.filter((i) => !i.kept).map((i) => ({ ...i, of: `${d.computer} ${d.disk}` }))),
)
const chosen = computed(() => going.value.filter((i) => !left.value.has(i.id)))
const bytes = computed(() => chosen.value.reduce((sum, i) => sum + i.storedBytes, 0))
const plural = (count: number) => `${count} ${count === 1 ? 'image' : 'images'}`

async function show(diskId: string) {
  open.value = new Set([...open.value, diskId])
  await nextTick()
  document.getElementById(`disk-${diskId}`)?.scrollIntoView({ behavior: 'smooth', block: 'nearest' })
}

function toggle(set: Set<string>, id: string): Set<string> {
  return set.has(id) ? new Set([...set].filter((other) => other !== id)) : new Set([...set, id])
}

async function fresh() {
  await changed('retention', 'images', 'outlook', 'today', 'destinations')
}

const {
  act: release,
  busy,
  refused,
} = useAction(async () => {
  await client.POST('/api/v1/retention/releases', { body: { images: chosen.value.map((i) => i.id) } })
  asking.value = false
  await fresh()
})
const { act: takeBack, refused: notBack } = useAction(async (id: string) => {
  await client.POST('/api/v1/retention/releases/{id}/take-back', { params: { path: { id } } })
  await fresh()
})
const { act: again, refused: notAgain } = useAction(async () => {
  await client.POST('/api/v1/retention/releases/again')
  await fresh()
})
</script>

<template>
  <PageHeading title="Retention"
    >{{ run.data.value?.sentence }}
    <template #action
      ><Button v-if="going.length && mayAct && !asking" :label="`Release ${plural(going.length)} …`" @click="asking = true"
    /></template>
  </PageHeading>
  <p class="policy serif">{{ run.data.value?.policy }}</p>
  <p class="soft small">
    This is the office's rule, for plans without their own; <RouterLink to="/settings">change it</RouterLink>. The newest proven
    image of a disk never goes.
  </p>
  <p
    v-for="why in [run.error.value && sentenceOf(run.error.value), refused, notBack, notAgain].filter(Boolean)"
    :key="String(why)"
    class="notice"
    role="alert"
  >
    {{ why }}
  </p>
  <section v-if="asking" class="asking" aria-label="Images to release" @keydown.esc.stop="asking = false">
    <h2>Release {{ plural(chosen.length) }}, {{ size(bytes) }}?</h2>
    <p class="small">
      They move to the trash of their drive, and you can take them back until it is emptied. A drive that is away moves its images
      when it is attached.
    </p>
    <table>
      <tbody>
        <tr v-for="i in going" :key="i.id">
          <td class="mark">
            <input type="checkbox" :checked="!left.has(i.id)" :aria-label="`Release ${i.name}`" @change="left = toggle(left, i.id)" />
          </td>
          <td>
            <b>{{ i.of }}</b>
          </td>
          <td>{{ formatMoment(i.madeAt) }}</td>
          <td>{{ i.copies.map((c) => c.destination).join(', ') }}</td>
          <td class="number">{{ size(i.storedBytes) }}</td>
          <td class="why">{{ i.why }}</td>
        </tr>
      </tbody>
    </table>
    <p class="ends">
      <Button
        :label="`Release ${plural(chosen.length)}`"
        severity="danger"
        :loading="busy"
        :disabled="!chosen.length"
        @click="release"
      /><Button label="Keep them all" severity="secondary" outlined autofocus @click="asking = false" />
      <span v-for="b in run.data.value?.back" :key="b.destination" class="small soft"
        >{{ b.destination }} gets {{ size(b.bytes) }} back.</span
      >
    </p>
  </section>
  <RetentionMatrix v-if="disks.length" :disks="disks" :now="now" @show="show" />
  <section v-for="d in disks" :id="`disk-${d.diskId}`" :key="d.diskId" class="disk">
    <button type="button" class="opener" :aria-expanded="open.has(d.diskId)" @click="open = toggle(open, d.diskId)">
      <span class="turn" aria-hidden="true">{{ open.has(d.diskId) ? '▾' : '▸' }}</span> <b>{{ d.computer }}</b> {{ d.disk }}:
      {{ plural(d.images.length)
      }}<span v-if="d.images.some((i) => !i.kept)" class="grain"
        >, {{ d.images.filter((i) => !i.kept).length }} could go{{ d.automatic ? ' by itself' : '' }}</span
      >
      <span class="soft rule">{{ d.policies.join(' Or, by another plan: ') }}</span>
    </button>
    <table v-if="open.has(d.diskId)">
      <tbody>
        <tr v-for="i in d.images" :key="i.id">
          <td class="mark"><GrainMark :state="i.copies.every((c) => c.damaged) ? 'failed' : i.kept ? 'kept' : 'released'" /></td>
          <td class="when" :title="i.madeAt">
            <RouterLink :to="`/images/${i.copies[0]?.id ?? i.id}`">{{ formatMoment(i.madeAt) }}</RouterLink>
            <span class="soft">{{ formatAge(i.madeAt, now) }}</span>
          </td>
          <td class="lies">
            <span v-for="c in i.copies" :key="c.id" class="copy"
              ><TallyMark :proof="c.proof" :damaged="c.damaged" /> <RouterLink :to="`/images/${c.id}`">{{ c.destination }}</RouterLink><span
                v-if="c.damaged"
                class="brick"
                >, damaged</span
              ></span
            >
          </td>
          <td class="number bytes">{{ size(i.storedBytes) }}</td>
          <td class="why" :class="i.kept ? '' : 'grain'">{{ i.why }}</td>
        </tr>
      </tbody>
    </table>
  </section>
  <TrashTable
    v-if="run.data.value?.released.length"
    :released="run.data.value.released"
    :may-act="mayAct"
    :now="now"
    @back="takeBack"
    @again="again"
  />
  <OutlookSection v-if="disks.length" />
  <p v-if="run.data.value && !disks.length" class="empty">
    Images show here with the rule that keeps each. <RouterLink to="/night">Start tonight's images</RouterLink>, or
    <RouterLink to="/images/elsewhere">add some made elsewhere</RouterLink>.
  </p>
</template>

<style scoped>
.policy { font-size: 18px; margin: 0; font-weight: 400; }
.asking { border-top: 2px solid var(--ink); border-bottom: 2px solid var(--ink); padding: 12px 0 14px; margin: 16px 0; }
h2 { font-size: 19px; margin: 0 0 4px; }
.ends { display: flex; gap: 12px; align-items: center; margin-top: 12px; }
.disk { border-bottom: 1px solid var(--rule-soft); }
.opener {
  font: inherit;
  font-size: 13.5px;
  color: inherit;
  background: none;
  border: 0;
  padding: 6px 0;
  cursor: pointer;
  text-align: left;
  width: 100%;
}

.rule { margin-left: 10px; }
.turn { display: inline-block; width: 14px; color: var(--ink-soft); }
.mark { width: 24px; }
.when { white-space: nowrap; width: 210px; }
.lies { width: 270px; }
.copy { display: inline-flex; align-items: center; gap: 5px; margin-right: 14px; white-space: nowrap; }
.copy a { color: inherit; text-decoration: none; }
.bytes { width: 90px; }
.why { padding-left: 18px; }
</style>
