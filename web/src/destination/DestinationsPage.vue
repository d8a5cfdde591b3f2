<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { sentenceOf } from '../api/client'
import PageHeading from '../frame/PageHeading.vue'
import { useMargin } from '../frame/useMargin'
import { useUnits } from '../measure/useUnits'
import { formatMoment } from '../measure/times'
import { useSession } from '../session/useSession'
import DestinationFields from './DestinationFields.vue'
import RoomBins from './RoomBins.vue'
import RoomPlot from './RoomPlot.vue'
import { useDestinations } from '../query/destinations'

const { size } = useUnits()
const { mayAct } = useSession()
const margin = useMargin()
/** What is chosen among the bins, and what is shown: the other drive's form may have to be left first. */
const chosen = ref('')
const shown = ref('')
const editing = ref(false)
const fields = ref<InstanceType<typeof DestinationFields> | null>(null)
const list = useDestinations()
const destinations = computed(() => list.data.value ?? [])
const one = computed(() => destinations.value.find((d) => d.id === shown.value) ?? destinations.value[0])
const summary = computed(() => {
  const all = destinations.value
  if (!all.length) return ''
  const here = all.filter((d) => d.attached)
  const full = all.filter((d) => d.usableBytes === 0).map((d) => d.name)
  const free = here.reduce((sum, d) => sum + d.usableBytes, 0)
  const told = full.length ? ` Full: ${full.join(', ')}.` : ''
  return `${here.length} of ${all.length} attached, ${size(free)} free above the reserve.${told}`
})

watch(chosen, async (id) => {
  if (id === one.value?.id) return
  if (await (fields.value?.mayLeave() ?? true)) {
    shown.value = id
    editing.value = false
  } else {
    chosen.value = one.value?.id ?? ''
  }
})

const again = async () => (await list.refetch()).data?.find((d) => d.id === one.value?.id)
async function saved() {
  editing.value = false
  await list.refetch()
}
</script>

<template>
  <PageHeading title="Destinations"
    >{{ summary }}<template #action><RouterLink v-if="mayAct" to="/prepare-drive">Prepare a drive</RouterLink></template></PageHeading
  >
  <p v-if="list.error.value" class="notice" role="alert">{{ sentenceOf(list.error.value) }}</p>
  <RoomBins
    v-if="destinations.length"
    v-model="chosen"
    :destinations="destinations"
    :shown="one?.id ?? ''"
  />
  <section v-if="one">
    <div class="row">
      <h2>{{ one.name }}</h2>
      <span class="soft"
        >{{ one.placeText }}, {{ one.attached ? 'attached' : `not attached; as last measured ${formatMoment(one.measuredAt)}` }}</span
      >
      <RouterLink :to="`/labels/${one.id}`" class="small edit">Label and contents</RouterLink>
      <button v-if="mayAct && !editing" type="button" class="figure" @click="editing = true">Where it lies, and notes</button>
    </div>
    <DestinationFields
      v-if="editing"
      ref="fields"
      :key="one.id"
      :destination="one"
      :again="again"
      @saved="saved"
      @leave="editing = false"
    />
    <div class="columns">
      <table>
        <tbody>
          <tr>
            <td class="soft">Capacity</td>
            <td class="number">{{ size(one.capacityBytes) }}</td>
          </tr>
          <tr>
            <td class="soft">Free</td>
            <td class="number">{{ size(one.freeBytes) }}</td>
          </tr>
          <tr v-if="one.promisedBytes">
            <td class="soft">Promised to running captures, and tonight</td>
            <td class="number">{{ size(one.promisedBytes) }}</td>
          </tr>
          <tr>
            <td class="soft">Kept in reserve</td>
            <td class="number">{{ size(one.reserveBytes) }}</td>
          </tr>
          <tr>
            <td class="soft">Images on it</td>
            <td class="number">{{ one.images }}, {{ size(one.imageBytes) }}</td>
          </tr>
          <tr>
            <td class="soft">Link</td>
            <td class="number">{{ size(one.writeRateBytes) }}/s</td>
          </tr>
          <tr v-if="one.fileLimitBytes">
            <td class="soft">Longest file</td>
            <td class="number">{{ size(one.fileLimitBytes) }}</td>
          </tr>
          <tr v-if="one.form.rotation">
            <td class="soft">Rotation</td>
            <td class="number">{{ one.form.rotation }}</td>
          </tr>
          <tr v-if="one.form.sharedLink">
            <td class="soft">Shares its link</td>
            <td class="number">{{ one.form.sharedLink }}</td>
          </tr>
          <tr v-if="one.form.leavesBuilding">
            <td class="soft">Leaves the building</td>
            <td class="number">yes</td>
          </tr>
          <tr v-if="one.form.onlyFor.length">
            <td class="soft">Only for</td>
            <td class="number">{{ one.form.onlyFor.join(', ') }}</td>
          </tr>
          <tr v-if="one.form.ejectNote">
            <td class="soft">How to unplug it</td>
            <td>{{ one.form.ejectNote }}</td>
          </tr>
          <tr v-if="one.form.healthNote">
            <td class="soft">Health</td>
            <td>{{ one.form.healthNote }}</td>
          </tr>
        </tbody>
      </table>
      <div>
        <p class="full">
          <template v-if="one.full">
            Full
            <button type="button" class="figure" @click="margin.open(one.full.working)">
              <b>{{ one.full.sentence }}</b>
            </button>
          </template>
          <span v-else class="soft">When it is full: its history is too short to tell</span>
        </p>
        <RoomPlot
          v-if="one.readings.length > 1"
          :readings="one.readings"
          :capacity-bytes="one.capacityBytes"
          :reserve-bytes="one.reserveBytes"
        />
      </div>
      <div>
        <h2 class="section">Where it was taken</h2>
        <p v-for="m in one.moves" :key="m.at" class="small">
          {{ formatMoment(m.at) }}: {{ m.place }} <span class="soft">({{ m.account }})</span>
        </p>
        <p v-if="!one.moves.length" class="soft small">
          Nobody noted yet where it is kept. Swap a pair weekly, with one off site or in the safe.
        </p>
      </div>
    </div>
  </section>
  <p v-if="!destinations.length && !list.isPending.value" class="empty">
    Drives appear here when they are mounted under /media, /mnt or /run/media, and stay known when they are taken away.
  </p>
</template>

<style scoped>
.row { display: flex; gap: 14px; align-items: baseline; margin-bottom: 8px; }
h2 { font-size: 20px; margin: 0; }
.edit { margin-left: auto; }
section { border-top: 1px solid var(--ink); margin-top: 14px; padding-top: 10px; }
.columns { display: grid; grid-template-columns: 4fr 5fr 3fr; gap: 30px; }
.full { font-size: 16px; margin-bottom: 4px; }
</style>
