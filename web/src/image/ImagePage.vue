<script setup lang="ts">
import { computed, ref } from 'vue'
import { sentenceOf } from '../api/client'
import PageHeading from '../frame/PageHeading.vue'
import { useUnits } from '../measure/useUnits'
import { formatAge, formatMoment } from '../measure/times'
import { useNow } from '../measure/useNow'
import { useWidth } from '../measure/useWidth'
import { useSession } from '../session/useSession'
import ImageEvidence from './ImageEvidence.vue'
import ImageKept from './ImageKept.vue'
import ImagePlace from './ImagePlace.vue'
import ImageRehearsals from './ImageRehearsals.vue'
import ImageStrip from './ImageStrip.vue'
import ImageWork from './ImageWork.vue'
import TallyMark from '../proof/TallyMark.vue'
import ImageServed from '../served/ImageServed.vue'
import { useImage, useImageFacts } from '../query/images'

const props = defineProps<{ imageId: string }>()
const { size, between } = useUnits()
const { mayAct } = useSession()
const now = useNow(30_000)
const box = ref<HTMLElement | null>(null)
const width = useWidth(box)
const detail = useImage(() => props.imageId)
const facts = useImageFacts(
  () => props.imageId,
  () => !!detail.data.value && detail.data.value.image.format !== 'unseen',
)
const image = computed(() => detail.data.value?.image)
const last = computed(() => detail.data.value?.checks.find((c) => c.level !== 'booted'))
const inside = computed(
  () => image.value && image.value.lowBytes <= image.value.storedBytes && image.value.storedBytes <= image.value.highBytes,
)
</script>

<template>
  <PageHeading :title="image?.name ?? 'Image'">
    <template v-if="image">
      {{ image.computer }}, {{ image.disk }}, serial {{ image.serial || 'none' }}, as it was on {{ formatMoment(image.madeAt) }}.
      {{
        image.format === 'unseen'
          ? `Written down from a paper log: ${image.destination}. Its files were not seen.`
          : `On ${image.destination}${image.location ? `, folder ${image.location}` : ''}.`
      }}
      <span v-if="image.shelf !== 'kept'" class="grain"
        >It was released; <RouterLink to="/retention">take it back</RouterLink> while it lies in the trash.</span
      >
      <span v-if="image.damaged" class="brick">Its last check found damage.</span
      ><span v-else-if="image.stale" class="grain">Its proof is stale.</span>
    </template>
  </PageHeading>
  <p v-if="image && mayAct && image.restorable" class="look">
    <RouterLink :to="`/images/${imageId}/inside`">Look into it</RouterLink> and fetch single files, without restoring it.
  </p>
  <p v-if="detail.error.value" class="notice" role="alert">{{ sentenceOf(detail.error.value) }}</p>
  <div ref="box">
    <ImageStrip v-if="facts.data.value && width" :facts="facts.data.value" :check="last" :width="width" />
    <p v-else-if="facts.error.value" class="soft small">{{ sentenceOf(facts.error.value) }}</p>
  </div>
  <p v-if="image?.partly" class="notice">
    This image is {{ image.partly }}. It never stands for the whole disk: not on the card, not as the newest proven, and a restore leaves
    alone what it does not hold.
  </p>
  <p v-if="image?.badBytes" class="notice">
    {{ size(image.badBytes) }} of the disk could not be read when this image was made, in {{ image.badPlaces }}
    {{ image.badPlaces === 1 ? 'place' : 'places' }}; they are zeros in it for ever. Replace that disk.
  </p>
  <div v-if="image && detail.data.value" class="columns">
    <section>
      <h2 class="section">Evidence, newest first</h2>
      <ImageEvidence
        :checks="detail.data.value.checks"
        :destination="image.destination"
        :format="image.format"
        :partitions="facts.data.value?.partitions.length ?? 0"
      />
      <h2 class="section below">What it is</h2>
      <table>
        <tbody>
          <tr v-if="image.format !== 'unseen'">
            <td class="soft">Proof</td>
            <td>
              <TallyMark :proof="image.proof" :damaged="image.damaged" /> <span v-if="image.damaged" class="brick">damaged, </span
              >{{ image.checkedAt ? formatAge(image.checkedAt, now) : 'never checked' }}; checked again every {{ image.recheckDays }} days
            </td>
          </tr>
          <tr>
            <td class="soft">Stored</td>
            <td v-if="image.format !== 'granary'">{{ image.storedBytes ? size(image.storedBytes) : 'not told' }}, made with other tools</td>
            <td v-else>
              {{ size(image.storedBytes) }},
              {{ image.codec === 'none' || !image.codec ? 'not compressed' : `${image.codec}, level ${image.level}`
              }}{{ image.encrypted ? ', encrypted with a passphrase' : '' }}
            </td>
          </tr>
          <tr v-if="image.origin === 'made'">
            <td class="soft">Estimated</td>
            <td>
              {{ size(image.likelyBytes) }}{{ between(image.lowBytes, image.highBytes) }};
              <span :class="inside ? 'moss' : 'grain'">{{ inside ? 'as estimated' : 'outside the estimate' }}</span>
            </td>
          </tr>
          <tr v-if="image.rawBytes">
            <td class="soft">{{ image.usedBytes ? 'Read' : 'The disk' }}</td>
            <td>{{ image.usedBytes ? `${size(image.usedBytes)} of ` : '' }}{{ size(image.rawBytes) }}</td>
          </tr>
          <tr>
            <td class="soft">{{ image.origin === 'made' || image.origin === 'copied' ? 'Made by' : 'Added by' }}</td>
            <td>{{ image.madeBy }}{{ image.origin === 'copied' ? ', a copy' : '' }}</td>
          </tr>
          <tr v-if="facts.data.value">
            <td class="soft">Parts</td>
            <td>
              <details>
                <summary>{{ facts.data.value.parts.length }} with their SHA-256</summary>
                <p v-for="p in facts.data.value.parts" :key="p.name" class="part">
                  {{ p.name }}, {{ size(p.bytes) }}<br /><code>{{ p.digest || 'not taken yet' }}</code>
                </p>
              </details>
            </td>
          </tr>
        </tbody>
      </table>
    </section>
    <div>
      <ImageRehearsals
        v-if="image.restorable && !image.damaged"
        :key="`back-${image.id}`"
        :detail="detail.data.value"
      />
      <ImageServed
        v-if="image.restorable && !image.damaged && image.format === 'granary'"
        :key="`served-${image.id}`"
        :detail="detail.data.value"
      />
      <ImageWork v-if="mayAct && image.shelf === 'kept'" :key="image.id + image.note" :detail="detail.data.value" />
      <!-- what is damaged is repaired first -->
      <ImageRehearsals
        v-if="image.restorable && image.damaged"
        :key="`repaired-${image.id}`"
        :detail="detail.data.value"
      />
      <ImagePlace
        v-if="mayAct && image.shelf === 'kept' && image.format === 'granary'"
        :key="`place-${image.id}`"
        :detail="detail.data.value"
        @moved="detail.refetch()"
      />
      <ImageKept :key="`kept-${image.id}`" :image-id="image.id" :may-act="mayAct && image.shelf === 'kept'" />
    </div>
  </div>
</template>

<style scoped>
.look { margin: -8px 0 14px; }
.columns { display: grid; grid-template-columns: 3fr 2fr; gap: 34px; margin-top: 6px; }
h2.below.below { margin-top: 18px; }
.part { margin-top: 6px; }
code { font-size: 11.5px; overflow-wrap: anywhere; color: var(--ink-soft); }
</style>
