<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { answer, client, sentenceOf } from '../api/client'
import { useAction } from '../api/useAction'
import PageHeading from '../frame/PageHeading.vue'
import { formatMoment } from '../measure/times'
import { useWidth } from '../measure/useWidth'
import { useAnswered } from '../query/ask'
import { useInside } from '../query/inside'
import PassphraseField from '../run/PassphraseField.vue'
import FileMargin from './FileMargin.vue'
import FolderList from './FolderList.vue'
import VolumeStrip from './VolumeStrip.vue'
import { first, formatPlace, parsePlace, type Place } from './place'

/** Folders and files in an image, without restoring it. */
const props = defineProps<{ imageId: string }>()
const route = useRoute()
const router = useRouter()
const answered = useAnswered()
const box = ref<HTMLElement | null>(null)
const width = useWidth(box)
const secret = ref('')
const asked = useInside(() => props.imageId)
const inside = computed(() => asked.data.value)
const place = computed<Place | null>(
  () => parsePlace(String(route.query.place ?? '')) ?? (inside.value ? first(inside.value.volumes) : null),
)
const volume = computed(() => inside.value?.volumes.find((each) => each.number === place.value?.partition))
/** The file the margin tells of; the folder itself without one. */
const chosen = ref<Place | null>(null)
watch(
  () => place.value && formatPlace(place.value),
  () => (chosen.value = null),
)

/** The folder of the file in another image of the disk. */
function goTo(imageId: string, file: Place) {
  const folder = { partition: file.partition, names: file.names.slice(0, -1) }
  return router.push({ path: `/images/${imageId}/inside`, query: { place: formatPlace(folder) } })
}
function go(to: Place) {
  return router.push({ query: { ...route.query, place: formatPlace(to) } })
}
const { act: unlock, busy, refused } = useAction(async () => {
  const opened = await answer(
    client.POST('/api/v1/inside/{imageId}/unlock', {
      params: { path: { imageId: props.imageId } },
      body: { passphrase: secret.value },
    }),
  )
  secret.value = ''
  answered(['inside', props.imageId], opened)
})
</script>

<template>
  <PageHeading :title="inside ? `In ${inside.computer}’s image of ${formatMoment(inside.madeAt)}` : 'In an image'">
    <template v-if="inside">
      {{ inside.disk }}, as it was then, from <RouterLink :to="`/images/${imageId}`">{{ inside.name }}</RouterLink> on
      {{ inside.destination }}. Nothing here changes the image.
    </template>
  </PageHeading>
  <p v-if="asked.error.value" class="notice" role="alert">{{ sentenceOf(asked.error.value) }}</p>
  <form v-if="inside?.locked" class="locked" @submit.prevent="unlock">
    <p>This image is encrypted. Its passphrase stays in memory for a quarter of an hour after you last used it, and is written nowhere.</p>
    <p v-if="refused" class="notice" role="alert">{{ refused }}</p>
    <PassphraseField v-model="secret" />
    <Button type="submit" label="Open it" :loading="busy" :disabled="!secret" />
  </form>
  <div v-else-if="inside" class="inside">
    <div ref="box">
      <VolumeStrip
        v-if="width"
        :volumes="inside.volumes"
        :width="width"
        :chosen="place?.partition ?? -1"
        @choose="go({ partition: $event, names: [] })"
      />
      <p v-if="!place" class="soft">
        Granary cannot read the files of any of its partitions. Restore the image, or serve it as a disk:
        <code>./granary serve-image</code> with its folder.
      </p>
      <FolderList
        v-if="place"
        :image-id="imageId"
        :place="place"
        :volume-name="volume?.name || `partition ${place.partition}`"
        :chosen="chosen ? formatPlace(chosen) : ''"
        @open="go"
        @choose="chosen = $event"
      />
    </div>
    <FileMargin
      v-if="place"
      :key="formatPlace(chosen ?? place)"
      :image-id="imageId"
      :place="chosen ?? place"
      :others="inside.others"
      @go="goTo"
    />
  </div>
</template>

<style scoped>
.inside { display: grid; grid-template-columns: minmax(0, 1fr) 290px; gap: 26px; }
.locked { max-width: 460px; display: grid; gap: 12px; }
</style>
