<script setup lang="ts">
import Button from 'primevue/button'
import Paginator from 'primevue/paginator'
import { computed, reactive, ref } from 'vue'
import { RouterLink } from 'vue-router'
import { sentenceOf } from '../api/client'
import TextField from '../field/TextField.vue'
import PageHeading from '../frame/PageHeading.vue'
import { useTyped } from '../field/useTyped'
import { useInAddress } from '../frame/useInAddress'
import { useUnits } from '../measure/useUnits'
import { useNow } from '../measure/useNow'
import ShelfDisk from './ShelfDisk.vue'
import { shelfSentence } from './shelfWords'
import { SHELF_BEGINS, useShelf } from '../query/images'

/** Every image once, under its disk, with the copies it lies in and how far each is proven. */
const { size } = useUnits()
const now = useNow(30_000)
const { size: PAGE, ...BEGINS } = SHELF_BEGINS
const choice = reactive({ ...BEGINS })
useInAddress(choice)
const asked = computed(() => ({ ...choice, size: PAGE }))
const filter = useTyped(
  () => choice.text,
  (text) => Object.assign(choice, { text, page: 0 }),
)
const shelf = useShelf(asked)
const disks = computed(() => shelf.data.value?.disks ?? [])
const wanted = computed(() => ({ text: choice.text, drive: choice.drive, show: choice.show }))
const narrowed = computed(() => Boolean(choice.text || choice.drive || choice.show !== 'all'))
const summary = computed(() => (shelf.data.value ? shelfSentence(shelf.data.value.figures, size, Boolean(choice.text)) : ''))
const shows = computed(() => {
  const all = shelf.data.value
  return [
    { word: 'all', label: 'all' },
    { word: 'one-copy', label: `one copy only ${all?.oneCopy ?? 0}` },
    { word: 'not-proven', label: `not proven lately ${all?.notProven ?? 0}` },
    { word: 'damaged', label: `damaged ${all?.damaged ?? 0}` },
  ]
})
const folded = ref(new Set<string>())
function fold(diskId: string) {
  folded.value = folded.value.has(diskId) ? new Set([...folded.value].filter((id) => id !== diskId)) : new Set([...folded.value, diskId])
}
const everyFolded = computed(() => disks.value.length > 0 && disks.value.every((d) => folded.value.has(d.diskId)))
function foldAll() {
  folded.value = everyFolded.value ? new Set() : new Set(disks.value.map((d) => d.diskId))
}
</script>

<template>
  <PageHeading title="Images"
    >{{ summary }}
    <template #action
      ><Button :as="RouterLink" to="/images/elsewhere" label="Add one made elsewhere" severity="secondary" outlined class="link-button"
    /></template>
  </PageHeading>
  <p v-if="shelf.error.value" class="notice" role="alert">{{ sentenceOf(shelf.error.value) }}</p>
  <div v-if="shelf.data.value && (disks.length || narrowed)" class="choices">
    <TextField v-model="filter" label="Find an image" data-filter placeholder="Name, disk or drive ( / )" />
    <div role="group" aria-labelledby="by-drive" class="group">
      <span id="by-drive" class="what">Drive</span>
      <button type="button" class="choice" :aria-pressed="!choice.drive" @click="Object.assign(choice, { drive: '', page: 0 })">
        all drives
      </button>
      <button
        v-for="d in shelf.data.value.drives.slice(0, 8)"
        :key="d.id"
        type="button"
        class="choice"
        :aria-pressed="choice.drive === d.id"
        @click="Object.assign(choice, { drive: d.id, page: 0 })"
      >
        {{ d.name }} {{ d.copies }}
      </button>
    </div>
    <div role="group" aria-labelledby="by-state" class="group">
      <span id="by-state" class="what">Show</span>
      <button
        v-for="s in shows"
        :key="s.word"
        type="button"
        class="choice"
        :aria-pressed="choice.show === s.word"
        @click="Object.assign(choice, { show: s.word, page: 0 })"
      >
        {{ s.label }}
      </button>
    </div>
  </div>
  <table v-if="disks.length" class="shelf">
    <thead>
      <tr>
        <th class="made">Made</th>
        <th class="number">Stored</th>
        <th class="number">Of what was read</th>
        <th>Copies, with the proof of each</th>
        <th class="number">
          <button type="button" class="quiet soft" @click="foldAll">{{ everyFolded ? 'unfold all' : 'fold all' }}</button>
        </th>
      </tr>
    </thead>
    <ShelfDisk
      v-for="d in disks"
      :key="d.diskId"
      :disk="d"
      :asked="wanted"
      :now="now"
      :folded="folded.has(d.diskId)"
      @fold="fold(d.diskId)"
    />
  </table>
  <Paginator
    v-if="(shelf.data.value?.allDisks ?? 0) > PAGE"
    :rows="PAGE"
    :first="choice.page * PAGE"
    :total-records="shelf.data.value?.allDisks ?? 0"
    @page="(e) => (choice.page = e.page)"
  />
  <p v-if="disks.length" class="soft small key">
    Proof, stroke by stroke: complete, sound, readable, rehearsed; a bar across them: booted.
  </p>
  <p v-else-if="shelf.data.value" class="empty">
    {{ narrowed ? 'No image is like that.' : 'Images appear here, newest first, each with its proof.' }}
    <template v-if="!narrowed"
      ><RouterLink to="/computers">Choose a disk and make the first one</RouterLink>, or
      <RouterLink to="/images/elsewhere">add one made elsewhere</RouterLink>.</template
    >
  </p>
</template>

<style scoped>
.choices { display: flex; flex-wrap: wrap; gap: 10px 26px; align-items: flex-end; margin-bottom: 14px; }
.group { display: flex; flex-wrap: wrap; gap: 2px 8px; align-items: center; }
.what { flex-basis: 100%; font-size: 13px; color: var(--ink-soft); }
.choice {
  font: inherit;
  font-size: 13.5px;
  color: inherit;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
  padding: 5px 10px;
  cursor: pointer;
}
.choice[aria-pressed='true'] { border-color: var(--grain); background: var(--wash); font-weight: 600; }
.made { padding-left: 14px; }
th.number { text-align: right; padding-right: 16px; }
.quiet { font: inherit; background: none; border: 0; padding: 0; cursor: pointer; }
.quiet:hover { text-decoration: underline; }
.key { margin-top: 14px; }
.link-button { text-decoration: none; white-space: nowrap; }
</style>
