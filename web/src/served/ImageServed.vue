<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { client } from '../api/client'
import type { ImageDetail } from '../api/types'
import { useAction } from '../api/useAction'
import SelectField from '../field/SelectField.vue'
import { formatMoment } from '../measure/times'
import { useUnits } from '../measure/useUnits'
import { useServed } from '../query/served'
import { useSession } from '../session/useSession'

/** An image started as a computer to work at, or served as a disk, while somebody needs it. */
const props = defineProps<{ detail: ImageDetail }>()
const { mayAct } = useSession()
const { size } = useUnits()
const id = computed(() => props.detail.image.id)
const memory = ref('2048')
const all = useServed()
const mine = computed(() => (all.data.value ?? []).filter((each) => each.imageId === id.value))
const MEMORY = [512, 1024, 2048, 4096, 8192].map((mib) => ({ key: String(mib), label: mib < 1024 ? `${mib} MiB` : `${mib / 1024} GiB` }))
const { act, busy, refused } = useAction(async (kind: 'disk' | 'computer') => {
  await client.POST('/api/v1/served', { body: { imageId: id.value, kind, memoryMib: Number(memory.value) } })
  await all.refetch()
})
const { act: press } = useAction(async (which: string) => {
  await client.POST('/api/v1/served/{id}/switch', { params: { path: { id: which } } })
})
const sure = ref('')
const {
  act: end,
  busy: ending,
  refused: notEnded,
} = useAction(async (which: string) => {
  await client.DELETE('/api/v1/served/{id}', { params: { path: { id: which } } })
  sure.value = ''
  await all.refetch()
})
</script>

<template>
  <section>
    <h2 class="section">Work with it now</h2>
    <p v-if="refused || notEnded" class="notice" role="alert">
      {{ refused || notEnded }}
      <RouterLink v-if="detail.image.encrypted" :to="`/images/${id}/inside`">Open it with its passphrase</RouterLink>
    </p>
    <div v-for="each in mine" :key="each.id" class="served">
      <p v-if="each.kind === 'computer'">
        <b>{{ each.running ? 'Running as a virtual computer' : 'Switched off' }}</b> since {{ formatMoment(each.since) }}, started by
        {{ each.by }}. Its screen: open <code>{{ each.address }}</code> with any VNC viewer, on the machine Granary runs on. What it writes,
        {{ size(each.changedBytes) }} so far, is kept apart; the image stays as it is. It has no network.
      </p>
      <p v-else>
        <b>Served as a disk that is only read</b> since {{ formatMoment(each.since) }}, by {{ each.by }}, at <code>{{ each.address }}</code
        >, to every account of the machine Granary runs on. For example
        <code>qemu-img convert {{ each.address }} disk.img</code> or <code>nbdfuse</code>.
      </p>
      <p class="does">
        <RouterLink
          v-if="each.kind === 'computer' && !each.running && mayAct"
          :to="{ path: '/restore', query: { served: each.id, computer: detail.image.computer } }"
          >Write its disk, with what it changed, onto a spare</RouterLink
        >
        <Button
          v-if="each.kind === 'computer' && each.running"
          label="Press its power button"
          size="small"
          severity="secondary"
          outlined
          @click="press(each.id)"
        />
        <Button
          v-if="each.kind === 'disk' || sure !== each.id"
          :label="each.kind === 'disk' ? 'End serving it' : 'Switch it off and discard its changes'"
          size="small"
          severity="secondary"
          outlined
          :loading="ending"
          @click="each.kind === 'disk' ? end(each.id) : (sure = each.id)"
        />
        <template v-else>
          <Button label="Discard the changes" size="small" severity="danger" :loading="ending" @click="end(each.id)" />
          <Button label="Keep it running" size="small" severity="secondary" outlined @click="sure = ''" />
        </template>
      </p>
    </div>
    <template v-if="mayAct && !mine.length">
      <div class="start">
        <SelectField v-model="memory" label="Memory" :options="MEMORY" />
        <Button
          label="Start it as a virtual computer"
          size="small"
          severity="secondary"
          outlined
          :loading="busy"
          @click="act('computer')"
        />
        <Button label="Serve it as a disk" size="small" severity="secondary" outlined :loading="busy" @click="act('disk')" />
      </div>
      <p class="small soft">
        Nothing is restored and the image is not changed: a dead computer’s work goes on while its disk is on its way.
      </p>
    </template>
  </section>
</template>

<style scoped>
section { margin: 16px 0; }
.start { display: flex; gap: 8px; flex-wrap: wrap; align-items: flex-end; margin-bottom: 6px; }
.does { display: flex; gap: 8px; flex-wrap: wrap; }
.served { margin-bottom: 12px; }
code { font-size: 12.5px; overflow-wrap: anywhere; }
</style>
