<script setup lang="ts">
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { useComputers } from '../computer/useComputers'
import { useFoundImages } from '../query/images'
import { usePlans } from '../query/plans'

const visible = defineModel<boolean>('visible', { required: true })
const router = useRouter()
const text = ref('')
const at = ref(0)
const { computers } = useComputers()
const plans = usePlans(() => visible.value)
const images = useFoundImages(text, 9, () => visible.value)

const found = computed(() => {
  const all = [
    ...computers.value.map((c) => ({ label: c.name, note: c.role || 'computer', to: `/computers/${c.id}` })),
    ...computers.value.map((c) => ({
      label: `Bring ${c.name} back`,
      note: 'restore',
      to: `/restore?computer=${encodeURIComponent(c.name)}`,
    })),
    ...computers.value.flatMap((c) =>
      c.disks
        .filter((d) => d.attached)
        .map((d) => ({ label: `Image ${c.name}, ${d.name}`, note: `${d.model} ${d.serial}`, to: `/make-image/${d.id}` })),
    ),
    ...(plans.data.value ?? []).map((p) => ({ label: p.name, note: `plan, ${p.often}`, to: `/plans/${p.id}` })),
    ...(images.data.value?.disks ?? []).flatMap((d) =>
      d.newest.map((i) => ({ label: i.name, note: `image on ${i.copies.map((c) => c.destination).join(', ')}`, to: `/images/${i.id}` })),
    ),
    ...[
      'Today',
      'Computers',
      'Plans',
      'Night',
      'Import',
      'Runs',
      'Images',
      'Destinations',
      'Retention',
      'Restore',
      'Rollouts',
      'Journal',
      'Outbox',
    ].map((p) => ({ label: p, note: 'page', to: `/${p.toLowerCase()}` })),
    { label: 'Cover report', note: 'for the office, to print', to: '/cover' },
    { label: 'If it dies today', note: 'cards of all computers', to: '/cards' },
    { label: 'Rescue media', note: 'page', to: '/rescue-media' },
    { label: 'Prepare a drive', note: 'page', to: '/prepare-drive' },
    { label: 'Settings', note: 'page', to: '/settings' },
    { label: 'Office hours', note: 'settings', to: '/settings#hours' },
    { label: 'Mail server', note: 'settings', to: '/settings#mail' },
    { label: 'Accounts', note: 'settings', to: '/settings#accounts' },
    { label: 'Print a period of the journal', note: 'page', to: '/journal/report' },
    { label: 'Add an image made elsewhere', note: 'page', to: '/images/elsewhere' },
  ]
  const words = text.value.toLowerCase().split(/\s+/)
  return all.filter((one) => words.every((word) => `${one.label} ${one.note}`.toLowerCase().includes(word))).slice(0, 9)
})
watch(visible, () => (text.value = ''))
watch(text, () => (at.value = 0))

function move(step: number) {
  at.value = Math.min(Math.max(0, at.value + step), Math.max(0, found.value.length - 1))
}

/** A mouse that only lies where the list opens must not choose for somebody who types: only a moved one does. */
function pointed(event: MouseEvent, i: number) {
  if (event.movementX || event.movementY) at.value = i
}

function open(to: string | undefined) {
  if (!to) return
  visible.value = false
  router.push(to)
}
</script>

<template>
  <Dialog
    v-model:visible="visible"
    modal
    :show-header="false"
    position="top"
    :style="{ width: '520px', marginTop: '80px' }"
    dismissable-mask
    :pt="{ content: { style: 'padding: 14px' } }"
  >
    <InputText
      v-model="text"
      autofocus
      fluid
      placeholder="Find a computer, disk, image or page"
      aria-label="Find"
      role="combobox"
      aria-expanded="true"
      aria-controls="found"
      @keydown.down.prevent="move(1)"
      @keydown.up.prevent="move(-1)"
      @keydown.enter="open(found[at]?.to)"
    />
    <ul id="found" role="listbox">
      <li
        v-for="(one, i) in found"
        :key="one.to"
        role="option"
        :aria-selected="i === at"
        :class="{ at: i === at }"
        @click="open(one.to)"
        @mousemove="pointed($event, i)"
      >
        <span>{{ one.label }}</span><span class="soft">{{ one.note }}</span>
      </li>
      <li v-if="!found.length" class="soft">Nothing by that name.</li>
    </ul>
  </Dialog>
</template>

<style scoped>
ul { list-style: none; margin: 10px 0 0; padding: 0; }
li { display: flex; justify-content: space-between; gap: 16px; padding: 5px 8px; cursor: pointer; }
li.at { background: var(--wash); box-shadow: inset 3px 0 var(--grain); }
</style>
