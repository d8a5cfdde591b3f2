<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { answer, client, sentenceOf } from '../api/client'
import PageHeading from '../frame/PageHeading.vue'
import { useUnits } from '../frame/useUnits'
import GrainMark from '../image/GrainMark.vue'
import TallyMark from '../image/TallyMark.vue'
import { formatAge, formatMoment } from '../measure/times'
import { useNow } from '../measure/useNow'

/** What the plans' rules keep and let go, image by image; a dry run, which deletes nothing. */
const { size } = useUnits()
const now = useNow(60_000)
const onlyGoing = ref(false)
const run = useQuery({ queryKey: ['retention'], queryFn: () => answer(client.GET('/api/v1/retention')) })
const disks = computed(() => (run.data.value?.disks ?? []).map((d) => ({ ...d, shown: onlyGoing.value ? d.images.filter((i) => !i.kept) : d.images })).filter((d) => d.shown.length))
const going = computed(() => (run.data.value?.back ?? []).reduce((sum, b) => sum + b.images, 0))
</script>

<template>
  <PageHeading title="Retention">{{ run.data.value?.sentence }}
    <template #action><label v-if="going" class="only"><input v-model="onlyGoing" type="checkbox" /> only what could go</label></template>
  </PageHeading>
  <p v-if="run.error.value" class="notice" role="alert">{{ sentenceOf(run.error.value) }}</p>
  <p v-if="run.data.value?.disks.length" class="soft small">A dry run: nothing is deleted here. Rules are set in each plan; the newest proven image of a disk never goes.</p>
  <p v-for="b in run.data.value?.back" :key="b.destination" class="small">{{ b.destination }} would get {{ size(b.bytes) }} back, of {{ b.images }} {{ b.images === 1 ? 'image' : 'images' }}.</p>
  <section v-for="d in disks" :key="d.diskId">
    <h2>{{ d.computer }} <span class="soft">{{ d.disk }}</span></h2>
    <p v-for="p in d.policies" :key="p" class="small policy">{{ p }}</p>
    <table>
      <tbody>
        <tr v-for="i in d.shown" :key="i.id">
          <td class="mark"><GrainMark :state="i.damaged ? 'failed' : i.kept ? 'kept' : 'released'" /></td>
          <td class="when" :title="i.madeAt"><RouterLink :to="`/images/${i.id}`">{{ formatMoment(i.madeAt) }}</RouterLink> <span class="soft">{{ formatAge(i.madeAt, now) }}</span></td>
          <td class="proof"><TallyMark :proof="i.proof" :damaged="i.damaged" /></td>
          <td class="lies">{{ i.destination }}</td>
          <td class="number bytes">{{ size(i.storedBytes) }}</td>
          <td class="why" :class="i.kept ? '' : 'grain'">{{ i.why }}</td>
        </tr>
      </tbody>
    </table>
  </section>
  <p v-if="run.data.value && !run.data.value.disks.length" class="empty">Images show here with the rule that keeps each. <RouterLink to="/night">Start tonight's images</RouterLink>, or <RouterLink to="/images/elsewhere">add some made elsewhere</RouterLink>.</p>
</template>

<style scoped>
section { margin-top: 22px; }
h2 { font-size: 19px; margin: 0; }
table { table-layout: fixed; }
h2 .soft { font-weight: 400; font-size: 16px; }
.policy { margin: 2px 0 6px; }
.mark { width: 24px; }
.when { white-space: nowrap; width: 220px; }
.proof { width: 62px; }
.lies { width: 120px; }
.bytes { width: 90px; }
.why { padding-left: 18px; }
.only { font-size: 13.5px; cursor: pointer; }
.only input { accent-color: var(--grain); }
</style>
