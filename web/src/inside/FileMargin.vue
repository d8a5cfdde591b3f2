<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { answer, client, sentenceOf } from '../api/client'
import type { OtherImage } from '../api/types'
import { useAction } from '../api/useAction'
import SelectField from '../field/SelectField.vue'
import { formatMoment } from '../measure/times'
import { useUnits } from '../measure/useUnits'
import { useDestinations } from '../query/destinations'
import { useFileInside } from '../query/inside'
import SameFile from './SameFile.vue'
import { download } from './download'
import { formatPlace, type Place } from './place'

/** One file, or a folder: fetching it, the same file in other images, and how it is read. */
const props = defineProps<{ imageId: string; place: Place; others: OtherImage[] }>()
const emit = defineEmits<{ go: [imageId: string, place: Place] }>()
const SHOWN = 6
const { size } = useUnits()
const destination = ref('')
const put = ref('')
const all = ref(false)
const text = computed(() => formatPlace(props.place))
const file = useFileInside(
  () => props.imageId,
  () => text.value,
)
const line = computed(() => file.data.value?.line)
const folder = computed(() => line.value?.kind === 'folder')
const readable = computed(() => !!line.value && !line.value.unreadable && (folder.value || line.value.kind === 'file'))
const destinations = useDestinations()
const drives = computed(() =>
  (destinations.data.value ?? []).filter((each) => each.attached).map((each) => ({ key: each.id, label: each.name })),
)
const name = computed(() => line.value?.name || `partition ${props.place.partition}`)
const { act: fetchIt, busy, refused } = useAction(async () => {
  await download(props.imageId, text.value, folder.value ? `${name.value}.zip` : name.value, folder.value ? null : (line.value?.bytes ?? 0))
})
const {
  act: putIt,
  busy: putting,
  refused: notPut,
} = useAction(async () => {
  put.value = ''
  const there = await answer(
    client.POST('/api/v1/inside/{imageId}/put', {
      params: { path: { imageId: props.imageId } },
      body: { place: text.value, destinationId: destination.value },
    }),
  )
  put.value = there.sentence
})
</script>

<template>
  <aside class="file" aria-label="The file">
    <p v-if="file.error.value" class="notice" role="alert">{{ sentenceOf(file.error.value) }}</p>
    <template v-if="line && file.data.value">
      <h2>{{ name }}</h2>
      <p class="soft">
        <template v-if="folder">A folder, with all that is in it</template>
        <template v-else>{{ size(line.bytes) }}, changed {{ formatMoment(line.modifiedAt) }}</template>
      </p>
      <p v-if="!readable" class="notice">
        It cannot be fetched: {{ line.unreadable || 'it is neither a file nor a folder' }}.
      </p>
      <template v-else>
        <p v-if="file.data.value.badBytes" class="notice">
          {{ size(file.data.value.badBytes) }} of it could not be read when the image was made, and are zeros. An older image may have it
          sound.
        </p>
        <Button :label="folder ? 'Fetch it as a ZIP' : 'Fetch it to this computer'" fluid :loading="busy" @click="fetchIt" />
        <p v-if="refused" class="notice" role="alert">{{ refused }}</p>
        <form class="put" @submit.prevent="putIt">
          <SelectField v-model="destination" label="or put it onto" :options="drives" placeholder="choose a destination" fluid />
          <Button
            type="submit"
            label="Copy it there"
            size="small"
            severity="secondary"
            outlined
            :loading="putting"
            :disabled="!destination"
          />
        </form>
        <p v-if="notPut" class="notice" role="alert">{{ notPut }}</p>
        <p v-if="put" class="moss" role="status">{{ put }}</p>
      </template>
      <template v-if="!folder">
        <h3>The same file in other images</h3>
        <table v-if="others.length">
          <tbody>
            <SameFile
              v-for="other in all ? others : others.slice(0, SHOWN)"
              :key="other.id"
              :image-id="imageId"
              :place="text"
              :other="other"
              @go="emit('go', $event, place)"
            />
          </tbody>
        </table>
        <p v-else class="soft small">This disk has no other image yet.</p>
        <button v-if="others.length > SHOWN && !all" type="button" class="figure small" @click="all = true">
          {{ others.length - SHOWN }} older images
        </button>
        <template v-if="line.kind === 'file'">
          <h3>How it is read</h3>
          <table>
            <tbody>
              <tr v-if="file.data.value.imageChunks">
                <td>lies in chunks</td>
                <td class="number">{{ file.data.value.chunks }} of {{ file.data.value.imageChunks }}</td>
              </tr>
              <tr>
                <td>read of the image</td>
                <td class="number">{{ size(file.data.value.storedBytes) }}</td>
              </tr>
            </tbody>
          </table>
        </template>
      </template>
      <p class="soft small note">
        {{
          file.data.value.imageChunks
            ? 'The CRC-32C of each chunk is compared as it is read.'
            : 'Made with other tools: there is no digest of each piece to compare as it is read.'
        }}
        The journal keeps who fetched what, from which image.
      </p>
    </template>
  </aside>
</template>

<style scoped>
.file { background: var(--sheet); border-left: 1px solid var(--rule); padding: 12px 14px 16px 18px; align-self: start; }
h2 { font-size: 19px; margin: 0; overflow-wrap: anywhere; }
h3 { margin-top: 18px; }
.put { display: grid; gap: 8px; margin: 12px 0; }
.put .p-button { justify-self: start; }
.note { margin-top: 16px; }
</style>
