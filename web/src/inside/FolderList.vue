<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { sentenceOf } from '../api/client'
import type { FileLine } from '../api/types'
import TextField from '../field/TextField.vue'
import { useTyped } from '../field/useTyped'
import { counted } from '../measure/counted'
import { formatDate } from '../measure/times'
import { useUnits } from '../measure/useUnits'
import { useFolder, useFolderWeight, useFoundInside, type FolderAsked } from '../query/inside'
import { usePageKeys } from '../keys/pageKeys'
import { below, formatPlace, parsePlace, trail, type Place } from './place'

/** One folder: its names in order, those that match, and what is found below it. */
const props = defineProps<{ imageId: string; place: Place; volumeName: string; chosen: string }>()
const emit = defineEmits<{ open: [place: Place]; choose: [place: Place] }>()
const AT_ONCE = 200
const { size } = useUnits()
const text = ref('')
const everywhere = ref(false)
const sort = ref<FolderAsked['sort']>('name')
const descending = ref(false)
const from = ref(0)
const typed = useTyped(
  () => text.value,
  (now) => {
    text.value = now
    everywhere.value = false
    from.value = 0
  },
)
watch(
  () => formatPlace(props.place),
  () => {
    typed.value = text.value = ''
    everywhere.value = false
    from.value = 0
  },
)
const folder = useFolder(
  () => props.imageId,
  () => ({ place: formatPlace(props.place), text: text.value, sort: sort.value, descending: descending.value, from: from.value }),
  () => true,
)
const large = computed(() => folder.data.value?.bytes === null && !folder.isPlaceholderData.value)
const weight = useFolderWeight(
  () => props.imageId,
  () => formatPlace(props.place),
  () => large.value,
)
/** Of a large folder the names come first, and how much it holds a little later. */
const heavy = computed(() => {
  const bytes = folder.data.value?.bytes ?? (large.value ? weight.data.value?.bytes : undefined)
  return bytes == null ? '' : `, ${size(bytes)}`
})
const found = useFoundInside(
  () => props.imageId,
  () => ({ place: formatPlace({ partition: props.place.partition, names: [] }), text: text.value }),
  () => everywhere.value && text.value !== '',
)
const lines = computed<FileLine[]>(() => (everywhere.value ? (found.data.value?.lines ?? []) : (folder.data.value?.lines ?? [])))
/** What is shown is the answer to what was asked before: it is no answer to what is asked now, and nothing of it is chosen. */
const late = computed(() => !everywhere.value && folder.isPlaceholderData.value)
const failed = computed(() => (everywhere.value ? found.error.value : folder.error.value))

function placeOf(line: FileLine): Place {
  const there = everywhere.value ? (parsePlace(`${props.place.partition}:/${line.folder}`) ?? props.place) : props.place
  return below(there, line.name)
}
function pick(line: FileLine) {
  if (late.value) return
  if (line.kind === 'folder') emit('open', placeOf(line))
  else emit('choose', placeOf(line))
}
function by(column: FolderAsked['sort']) {
  descending.value = sort.value === column ? !descending.value : column !== 'name'
  sort.value = column
  from.value = 0
}
/** Up and down go from row to row. */
function step(event: KeyboardEvent, by: number) {
  const rows = [...document.querySelectorAll<HTMLElement>('[data-row]')]
  const at = rows.indexOf(event.target as HTMLElement)
  rows[Math.min(rows.length - 1, Math.max(0, at + by))]?.focus()
  event.preventDefault()
}
const arrow = (column: FolderAsked['sort']) => (sort.value !== column ? '' : descending.value ? ' ↓' : ' ↑')
usePageKeys(['↑ ↓', 'from name to name'], ['Enter', 'open a folder, choose a file'])
</script>

<template>
  <div class="bar">
    <nav aria-label="Folders on the way">
      <template v-for="(step, i) in trail(place)" :key="i">
        <span v-if="i" class="soft"> / </span>
        <b v-if="i === place.names.length">{{ i ? step.names[i - 1] : volumeName }}</b>
        <button v-else type="button" class="figure" @click="emit('open', step)">{{ i ? step.names[i - 1] : volumeName }}</button>
      </template>
      <span v-if="folder.data.value" class="soft small total"
        >{{ counted(folder.data.value.total, 'entry', 'entries') }}{{ heavy }}</span
      >
    </nav>
    <TextField v-model="typed" label="Find a name" data-filter placeholder="Part of a name ( / )" />
  </div>
  <p v-if="failed" class="notice" role="alert">{{ sentenceOf(failed) }}</p>
  <table v-if="lines.length" class="files" :class="{ late }" :aria-busy="late">
    <thead>
      <tr>
        <th><button type="button" class="sort" @click="by('name')">name{{ arrow('name') }}</button></th>
        <th class="number"><button type="button" class="sort" @click="by('bytes')">size{{ arrow('bytes') }}</button></th>
        <th><button type="button" class="sort" @click="by('modified')">changed{{ arrow('modified') }}</button></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="line in lines" :key="`${line.folder}/${line.name}`" :class="{ chosen: chosen === formatPlace(placeOf(line)) }">
        <td class="name">
          <button
            type="button"
            data-row
            class="row"
            @click="pick(line)"
            @keydown.down="step($event, 1)"
            @keydown.up="step($event, -1)"
          >
            <span class="mark" aria-hidden="true">{{ line.kind === 'folder' ? '▸' : '' }}</span>{{ line.name }}
          </button>
          <span v-if="everywhere" class="soft small"> in {{ line.folder ? `/${line.folder}` : volumeName }}</span>
          <span v-if="line.unreadable" class="soft small"> ({{ line.unreadable }})</span>
          <span v-else-if="line.kind === 'link'" class="soft small"> (a link)</span>
        </td>
        <td class="number">{{ line.kind === 'file' ? size(line.bytes) : '' }}</td>
        <td class="when">{{ formatDate(line.modifiedAt) }}</td>
      </tr>
    </tbody>
  </table>
  <p v-else-if="folder.isPending.value || (everywhere && found.isPending.value)" class="soft">
    {{ everywhere ? 'Looking through the partition …' : 'Opening the folder …' }}
  </p>
  <p v-else-if="!failed" class="soft">{{ text ? `No name here has “${text}” in it.` : 'This folder is empty.' }}</p>
  <p v-if="text" class="soft small found">
    <template v-if="late">Looking for “{{ text }}” …</template>
    <template v-else-if="!everywhere && folder.data.value">
      {{ folder.data.value.matching }} of {{ counted(folder.data.value.total, 'name', 'names') }} have “{{ text }}” in them.
      <button type="button" class="figure" @click="everywhere = true">Look in the whole partition</button>
    </template>
    <template v-else-if="found.data.value">
      {{ counted(found.data.value.lines.length, 'name', 'names') }} in {{ counted(found.data.value.folders, 'folder', 'folders') }}
      {{ found.data.value.whole ? 'of the whole partition.' : 'so far; there are more. Type more of the name.' }}
      {{ found.data.value.unread ? `${counted(found.data.value.unread, 'folder', 'folders')} could not be read.` : '' }}
      <button type="button" class="figure" @click="everywhere = false">Only in this folder</button>
    </template>
  </p>
  <p v-if="!everywhere && folder.data.value && folder.data.value.matching > AT_ONCE" class="pages">
    <Button label="Back" size="small" severity="secondary" outlined :disabled="from === 0" @click="from = Math.max(0, from - AT_ONCE)" />
    <span class="soft small">{{ from + 1 }} to {{ from + lines.length }} of {{ folder.data.value.matching }}</span>
    <Button
      label="On"
      size="small"
      severity="secondary"
      outlined
      :disabled="from + AT_ONCE >= folder.data.value.matching"
      @click="from += AT_ONCE"
    />
  </p>
</template>

<style scoped>
.late { opacity: 0.6; }
.bar { display: flex; justify-content: space-between; align-items: flex-end; gap: 18px; margin-bottom: 6px; }
nav { overflow-wrap: anywhere; padding-bottom: 6px; }
.total { margin-left: 14px; }
.files .name { max-width: 0; width: 100%; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.when { white-space: nowrap; }
.row {
  border: 0;
  background: none;
  padding: 0 4px 0 0;
  font: inherit;
  color: var(--ink);
  cursor: pointer;
  text-align: left;
}
.row:hover { text-decoration: underline; }
.row:focus-visible { outline-offset: -2px; }
.mark { display: inline-block; width: 18px; color: var(--ink-soft); }
.chosen { background: var(--wash); }
.chosen .row { font-weight: 600; }
.sort { border: 0; background: none; padding: 0; font: inherit; color: inherit; cursor: pointer; }
.found { margin-top: 8px; }
.pages { display: flex; gap: 12px; align-items: center; margin-top: 10px; }
</style>
