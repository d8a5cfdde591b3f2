<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import SelectField from '../field/SelectField.vue'
import TextField from '../field/TextField.vue'
import { answer, client } from '../api/client'
import type { FoundLine } from '../api/types'
import { useAction } from '../api/useAction'
import { useComputers } from '../computer/useComputers'
import PageHeading from '../frame/PageHeading.vue'
import { useSession } from '../session/useSession'
import FoundImage from './FoundImage.vue'
import KeptFile from './KeptFile.vue'
import PaperLine from './PaperLine.vue'
import { useDestinations } from '../query/destinations'

const { mayAct } = useSession()
const { computers } = useComputers()
const destinations = useDestinations()
const attached = computed(() => (destinations.data.value ?? []).filter((d) => d.attached))
const disks = computed(() => computers.value.flatMap((c) => c.disks.map((d) => ({ id: d.id, label: `${c.name}, ${d.name}` }))))
const destinationId = ref('')
const folder = ref('')
const lookedIn = ref('')
const found = ref<FoundLine[] | null>(null)
const all = ref(true)
watch([destinationId, folder], () => (found.value = null))

const {
  act: look,
  busy: looking,
  refused,
} = useAction(async () => {
  found.value = null
  lookedIn.value = folder.value.trim()
  const answered = await answer(
    client.GET('/api/v1/elsewhere', { params: { query: { destinationId: destinationId.value, folder: lookedIn.value } } }),
  )
  found.value = answered.images
  all.value = answered.all
})
const summary = computed(() => {
  if (!found.value)
    return (
      'Disk images that other tools made: as they are or packed, whole, in parts, or a table with its partitions. ' +
      'Once added they are tracked and checked like your own.'
    )
  const fresh = found.value.filter((f) => !f.onShelf).length
  return found.value.length
    ? `${found.value.length} ${found.value.length === 1 ? 'image' : 'images'} found, ${fresh} not on the shelf yet.`
    : 'No disk image lies there.'
})
</script>

<template>
  <PageHeading title="Add an image made elsewhere">{{ summary }}</PageHeading>
  <p v-if="refused" class="notice" role="alert">{{ refused }}</p>
  <form class="line" @submit.prevent="look">
    <SelectField
      v-model="destinationId"
      label="It lies on"
      :options="attached.map((d) => ({ key: d.id, label: d.name }))"
      placeholder="choose a drive"
    />
    <TextField
      label="in the folder, and below it"
      class="wide"
      v-model="folder"
      maxlength="1000"
      hint="empty for all of the drive"
      spellcheck="false"
    />
    <Button type="submit" label="Search there" :disabled="!destinationId" :loading="looking" />
  </form>
  <template v-if="found">
    <FoundImage
      v-for="one in found"
      :key="`${one.folder}/${one.name}`"
      :found="one"
      :disks="disks"
      :destination-id="destinationId"
      :looked-in="lookedIn"
      :may-act="mayAct"
      @added="one.onShelf = true"
    />
    <p v-if="!found.length" class="empty">
      Nothing in that folder begins like a disk. Granary reads disks as they are, and packed with gzip, zstd, xz or bzip2, disks of virtual
      computers, and sets of a table and partitions; a file that another tool encrypted cannot be recognised.
    </p>
    <KeptFile v-if="mayAct" :key="destinationId + lookedIn" :disks="disks" :destination-id="destinationId" :folder="lookedIn" />
    <p v-if="!all" class="soft small">The folder holds more than Granary looked at. Name a folder further down.</p>
  </template>
  <PaperLine v-if="mayAct" :disks="disks" />
</template>

<style scoped>
.line { display: flex; gap: 14px; align-items: start; margin-bottom: 18px; }
.line > .p-button { margin-top: 17px; }
.wide { flex: 1; max-width: 420px; }
</style>
