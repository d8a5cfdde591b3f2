<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { answer, client, sentenceOf } from '../api/client'
import type { ShelfDisk, ShelfImage } from '../api/types'
import { useUnits } from '../measure/useUnits'
import { formatAge, formatDay, formatMoment } from '../measure/times'
import GrainMark from '../proof/GrainMark.vue'
import TallyMark from '../proof/TallyMark.vue'

/** The images of one disk, each once, with the copies it lies in; the older ones when they are asked for. */
const props = defineProps<{ disk: ShelfDisk; asked: { text: string; drive: string; show: string }; now: number; folded: boolean }>()
const emit = defineEmits<{ fold: [] }>()
const { size } = useUnits()
const all = ref<ShelfImage[] | null>(null)
const refused = ref('')
watch(
  () => props.asked,
  () => (all.value = null),
)
const rows = computed(() => all.value ?? props.disk.newest)
const older = computed(() => props.disk.images - rows.value.length)

async function showOlder() {
  refused.value = ''
  try {
    all.value = (
      await answer(client.GET('/api/v1/shelf/disks/{diskId}', { params: { path: { diskId: props.disk.diskId }, query: props.asked } }))
    ).newest
  } catch (failed) {
    refused.value = sentenceOf(failed)
  }
}
const grain = (image: ShelfImage) =>
  image.copies.every((c) => c.released)
    ? 'released'
    : image.origin === 'paper'
      ? 'unseen'
      : image.copies.some((c) => c.damaged) && image.copies.every((c) => c.damaged || c.released)
        ? 'failed'
        : 'kept'
</script>

<template>
  <tbody class="disk">
    <tr class="head">
      <td colspan="3">
        <h2>{{ disk.computer }}</h2>
        <span class="soft"
          >{{ disk.disk }}<template v-if="disk.sizeBytes">, {{ size(disk.sizeBytes) }}</template></span
        >
      </td>
      <td class="soft">{{ disk.images }} {{ disk.images === 1 ? 'image' : 'images' }}</td>
      <td class="number">
        <button
          type="button"
          class="quiet soft"
          :aria-expanded="!folded"
          :aria-label="`${folded ? 'Unfold' : 'Fold'} ${disk.computer} ${disk.disk}`"
          @click="emit('fold')"
        >
          {{ folded ? 'unfold' : 'fold' }}
        </button>
      </td>
    </tr>
    <template v-if="!folded">
      <tr v-for="image in rows" :key="image.id" class="image">
        <td class="when">
          <GrainMark :state="grain(image)" />
          <RouterLink :to="`/images/${image.id}`" :title="image.name">{{ formatMoment(image.madeAt) }}</RouterLink>
          <span class="soft">{{ formatAge(image.madeAt, now) }}</span>
        </td>
        <td class="number">{{ image.storedBytes ? size(image.storedBytes) : 'not told' }}</td>
        <td class="number soft">
          <template v-if="image.usedBytes">{{ size(image.usedBytes) }}, × {{ (image.storedBytes / image.usedBytes).toFixed(2) }}</template
          ><template v-else>{{ image.origin === 'paper' ? 'paper log' : 'made elsewhere' }}</template>
        </td>
        <td class="copies">
          <RouterLink
            v-for="copy in image.copies"
            :key="copy.id"
            :to="`/images/${copy.id}`"
            class="copy"
            :class="{ brick: copy.damaged, soft: !copy.attached || copy.released }"
          >
            <TallyMark v-if="!copy.damaged && image.origin !== 'paper'" :proof="copy.proof" :damaged="false" /><span
              v-else-if="copy.damaged"
              class="cross"
              aria-hidden="true"
              >×</span
            >
            {{ copy.destination
            }}{{
              copy.damaged
                ? ', damaged'
                : copy.released
                  ? ', released'
                  : image.origin === 'paper'
                    ? ', not seen'
                    : copy.attached
                      ? ''
                      : ', away'
            }}{{ copy.stale && copy.proof && !copy.released ? ', stale' : '' }}
          </RouterLink>
        </td>
        <td class="remark">
          <RouterLink v-if="image.repairFrom" :to="`/images/${image.copies.find((c) => c.damaged)?.id}`" class="grain"
            >Repair from {{ image.copies.find((c) => c.id === image.repairFrom)?.destination }}</RouterLink
          >
          <span v-if="image.partly" class="grain">{{ image.partly }}</span>
          <span v-if="image.badBytes" class="brick">{{ size(image.badBytes) }} unreadable</span>
          <span v-if="image.held" class="soft">held: {{ image.held }}</span>
          <span v-if="image.bootedBy" class="soft">booted by {{ image.bootedBy }}</span>
          <span v-if="image.encrypted" class="soft">encrypted</span>
        </td>
      </tr>
      <tr v-if="older > 0">
        <td colspan="5">
          <button type="button" class="quiet grain" @click="showOlder">
            {{ older }} older, to {{ formatDay(disk.oldestAt.slice(0, 10)) }}
          </button>
        </td>
      </tr>
      <tr v-if="refused">
        <td colspan="5" class="brick" role="alert">{{ refused }}</td>
      </tr>
    </template>
  </tbody>
</template>

<style scoped>
.head td { padding-top: 16px; border-bottom-color: var(--rule); vertical-align: baseline; }
h2 { display: inline; font-size: 18px; margin: 0; }
.when { white-space: nowrap; padding-left: 14px; width: 250px; }
.when a { color: inherit; text-decoration: none; }
.when a:hover, .copy:hover { text-decoration: underline; }
.number { width: 96px; padding-right: 16px; }
.number.soft { width: 130px; padding-right: 26px; }
.copies { white-space: normal; }
.copy {
  display: inline-flex;
  align-items: center;
  gap: 5px;
  margin-right: 18px;
  color: inherit;
  text-decoration: none;
  white-space: nowrap;
}
.copy.brick { color: var(--brick); }
.copy.soft { color: var(--ink-soft); }
.cross { font-size: 15px; }
.remark { width: 230px; }
.remark > * { display: block; }
.quiet { font: inherit; background: none; border: 0; padding: 0 0 0 14px; cursor: pointer; }
.quiet:hover { text-decoration: underline; }
</style>
