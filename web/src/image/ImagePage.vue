<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { answer, client, sentenceOf } from '../api/client'
import { useAction } from '../api/useAction'
import PageHeading from '../frame/PageHeading.vue'
import { useUnits } from '../frame/useUnits'
import { formatAge, formatMoment } from '../measure/times'
import { useNow } from '../measure/useNow'
import { useSession } from '../session/useSession'
import TallyMark from './TallyMark.vue'

const props = defineProps<{ imageId: string }>()
const { size } = useUnits()
const { mayAct } = useSession()
const now = useNow(30_000)
const router = useRouter()
const detail = useQuery({ queryKey: ['image', props.imageId], queryFn: () => answer(client.GET('/api/v1/images/{id}', { params: { path: { id: props.imageId } } })) })
const image = computed(() => detail.data.value?.image)
const inside = computed(() => image.value && image.value.lowBytes <= image.value.storedBytes && image.value.storedBytes <= image.value.highBytes)
const MEANING: Record<string, string> = {
  presence: 'all parts there, of the right length',
  digests: 'every stored byte matches its SHA-256',
  frames: 'every digest matches and every frame decodes to what was read',
}

const { act: check, busy: starting, refused } = useAction(async () => {
  await client.POST('/api/v1/runs/checks', { body: { imageId: props.imageId } })
  await router.push('/runs')
})
</script>

<template>
  <PageHeading :title="image?.name ?? 'Image'">
    <template v-if="image">{{ image.computer }}, {{ image.disk }}, serial {{ image.serial || 'none' }}, as it was on {{ formatMoment(image.madeAt) }}. On {{ image.destination }}.</template>
    <template #action><Button label="Check this image" :disabled="!mayAct || !image" :loading="starting" @click="check" /></template>
  </PageHeading>
  <p v-if="refused" class="notice" role="alert">{{ refused }}</p>
  <p v-if="detail.error.value" class="notice" role="alert">{{ sentenceOf(detail.error.value) }}</p>
  <div v-if="image" class="columns">
    <section>
      <h3>Evidence, newest first</h3>
      <table>
        <thead><tr><th>When</th><th>By</th><th>Found</th><th class="number">Read</th></tr></thead>
        <tbody>
          <tr v-for="c in detail.data.value?.checks" :key="c.checkedAt">
            <td class="nowrap" :title="c.checkedAt">{{ formatMoment(c.checkedAt) }}</td>
            <td>{{ c.checkedBy }}</td>
            <td>
              <span :class="c.ok ? 'moss' : 'brick'">{{ c.ok ? 'sound' : 'damaged' }}</span><template v-if="c.ok">: {{ MEANING[c.depth] }}</template>
              <p v-for="(p, i) in c.problems" :key="i" class="problem">{{ p.message }}</p>
            </td>
            <td class="number">{{ size(c.readBytes) }}</td>
          </tr>
        </tbody>
      </table>
    </section>
    <section>
      <h3>What it is</h3>
      <table>
        <tbody>
          <tr><td class="soft">Proof</td><td><TallyMark :proof="image.proof" :damaged="image.damaged" /> <span v-if="image.damaged" class="brick">damaged, </span>{{ image.checkedAt ? formatAge(image.checkedAt, now) : 'never checked' }}</td></tr>
          <tr><td class="soft">Stored</td><td>{{ size(image.storedBytes) }}</td></tr>
          <tr><td class="soft">Thought</td><td>{{ size(image.likelyBytes) }}, between {{ size(image.lowBytes) }} and {{ size(image.highBytes) }}; <span :class="inside ? 'moss' : 'grain'">{{ inside ? 'it lay between' : 'it lay outside' }}</span></td></tr>
          <tr><td class="soft">Read</td><td>{{ size(image.usedBytes) }} of {{ size(image.rawBytes) }}</td></tr>
          <tr><td class="soft">Codec</td><td>{{ image.codec }}{{ image.codec === 'none' ? '' : `, level ${image.level}` }}</td></tr>
          <tr><td class="soft">Made by</td><td>{{ image.madeBy }}</td></tr>
        </tbody>
      </table>
    </section>
  </div>
</template>

<style scoped>
.columns { display: grid; grid-template-columns: 3fr 2fr; gap: 34px; }
.nowrap { white-space: nowrap; }
.problem { margin-top: 4px; }
</style>
