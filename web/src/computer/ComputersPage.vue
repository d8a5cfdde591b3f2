<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import AgentList from '../agent/AgentList.vue'
import SelectField from '../field/SelectField.vue'
import TextField from '../field/TextField.vue'
import { sentenceOf } from '../api/client'
import PageHeading from '../frame/PageHeading.vue'
import { counted } from '../measure/counted'
import { useUnits } from '../measure/useUnits'
import { useNow } from '../measure/useNow'
import { useWidth } from '../measure/useWidth'
import { useSession } from '../session/useSession'
import ComputerRow from './ComputerRow.vue'
import { ORDERS, ordered, type Order } from './orders'
import { rowHeight } from './rows'
import { toOneScale } from '../strip/strip'
import TextureKey from './TextureKey.vue'
import UntoldDisks from './UntoldDisks.vue'
import { useComputers } from './useComputers'
import { useOffice } from '../query/office'

const STRIP_LEAST = 44
/** What stands beside the strips in a row, in pixels. */
const BESIDE = 524
const { size } = useUnits()
const { mayAct } = useSession()
const router = useRouter()
const now = useNow(30_000)
const filter = ref('')
const order = ref<Order>('name')
const withRetired = ref(false)
const column = ref<HTMLElement | null>(null)
const width = useWidth(column)
const { computers, untold, reading, error, pending, readAgain } = useComputers()
const office = useOffice()

const inUse = computed(() => computers.value.filter((c) => withRetired.value || !c.retired))
const retired = computed(() => computers.value.filter((c) => c.retired).length)
const shown = computed(() => {
  const words = filter.value.toLowerCase().split(/\s+/)
  const found = inUse.value.filter((c) => {
    const text = `${c.name} ${c.role} ${c.owner} ${c.disks.map((d) => `${d.model} ${d.serial}`).join(' ')}`.toLowerCase()
    return words.every((word) => text.includes(word))
  })
  return ordered(found, order.value)
})
const scale = computed(() => {
  const disks = inUse.value.flatMap((c) => c.disks)
  const widths = toOneScale(
    disks.map((d) => d.sizeBytes),
    Math.max(120, width.value - BESIDE),
    STRIP_LEAST,
  )
  return new Map(disks.map((d, i) => [d.id, widths[i]!]))
})
const summary = computed(() => {
  const all = computers.value.filter((c) => !c.retired)
  if (!all.length) return ''
  const covered = all.filter((c) => c.lastImageAt && c.lastImageSound).length
  const disks = all.flatMap((c) => c.disks)
  const used = size(disks.reduce((sum, d) => sum + d.usedBytes, 0))
  const have = counted(all.length, 'computer has', 'computers have')
  return `${covered} of ${have} a sound image. ${counted(disks.length, 'disk holds', 'disks hold')} ${used} to read.`
})

// only the rows in view are drawn: five hundred computers scroll as nine do
const rows = useVirtualizer(
  computed(() => ({
    count: shown.value.length,
    getScrollElement: () => document.querySelector('main'),
    estimateSize: (i: number) => rowHeight(shown.value[i]!),
    getItemKey: (i: number) => shown.value[i]!.id,
    overscan: 6,
    scrollMargin: column.value?.offsetTop ?? 0,
  })),
)
</script>

<template>
  <PageHeading title="Computers"
    >{{ summary }}
    <template #action>
      <div class="tools">
        <Button label="Import a report" severity="secondary" outlined :disabled="!mayAct" @click="router.push('/import')" />
        <Button label="Add by hand" severity="secondary" outlined :disabled="!mayAct" @click="router.push('/computers/new')" />
      </div>
    </template>
  </PageHeading>
  <p v-if="error" class="notice" role="alert">{{ sentenceOf(error) }}</p>
  <UntoldDisks v-if="untold.length" :disks="untold" />
  <div v-if="computers.length" class="bar">
    <TextField v-model="filter" label="Find a computer" data-filter placeholder="Name, person or disk ( / )" />
    <SelectField label="Order" v-model="order" :options="ORDERS" />
    <label v-if="retired" class="too"><input v-model="withRetired" type="checkbox" /> {{ retired }} retired too</label>
    <TextureKey class="key" />
  </div>
  <p v-if="pending || (reading && !computers.length)" class="soft" role="status">Reading the disks…</p>
  <div ref="column" class="list" :style="{ height: `${rows.getTotalSize()}px` }">
    <div
      v-for="row in rows.getVirtualItems()"
      :key="row.key as string"
      class="place"
      :style="{ transform: `translateY(${row.start - rows.options.scrollMargin}px)`, height: `${row.size}px` }"
    >
      <ComputerRow v-if="shown[row.index]" :computer="shown[row.index]!" :scale="scale" :now="now" />
    </div>
  </div>
  <p v-if="!shown.length && computers.length" class="empty">No computer matches "{{ filter }}". Clear the filter to see all.</p>
  <p v-if="!computers.length && !pending && !reading" class="empty">
    The office's computers belong here. <RouterLink to="/import">Import a report</RouterLink> that a script prints on each, or add one by
    hand.
  </p>
  <p class="soft small hint">
    <template v-if="office.data.value?.diskFolder"
      >Raw disk image files put into {{ office.data.value.diskFolder }} are shown here too.
    </template>
    <button v-if="mayAct" type="button" class="figure" :disabled="reading" @click="readAgain">
      {{ reading ? 'Reading the disks…' : 'Read the disks again' }}
    </button>
  </p>
  <AgentList />
</template>

<style scoped>
.tools, .bar { display: flex; gap: 12px; align-items: center; }
.bar { align-items: flex-end; margin-bottom: 12px; font-size: 13.5px; }
.too { padding-bottom: 6px; }
.key { margin-left: auto; }
.list { position: relative; }
.place { position: absolute; top: 0; left: 0; right: 0; }
.hint { margin: 12px 0; }
</style>
