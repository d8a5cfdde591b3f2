<script setup lang="ts">
import Button from 'primevue/button'
import { computed, reactive, ref, watch } from 'vue'
import { client } from '../api/client'
import { useAction } from '../api/useAction'
import SelectField from '../field/SelectField.vue'
import TextField from '../field/TextField.vue'
import { useUnits } from '../measure/useUnits'
import { counted } from '../measure/counted'
import { formatDay } from '../measure/times'
import { useComputerList } from '../query/computers'
import { useCopies } from '../query/images'
import { useTargets } from '../query/targets'

/** A rollout to be: one image, and those of the disks that are here which it goes onto, each with the computer it will be in. */
const emit = defineEmits<{ made: [] }>()
const { size } = useUnits()
const targets = useTargets()
const images = useCopies()
const computers = useComputerList()
const imageId = ref('')
const name = ref('')
/** By disk, the computer it will be in. */
const picked = reactive(new Map<string, string>())
/** As on Restore: disks built into computers stay hidden until they are asked for. */
const builtIn = ref(false)
const of = (kind: string) => (targets.data.value ?? []).filter((t) => t.kind === kind)
const here = computed(() => [...of('spare'), ...(builtIn.value ? of('fixed') : [])])
const references = computed(() =>
  (images.data.value?.lines ?? []).filter((one) => one.restorable && one.format === 'granary' && !one.partly && !one.damaged),
)
const options = computed(() =>
  references.value.map((i) => ({
    key: i.id,
    label: `${i.name}, of ${formatDay(i.madeAt)}, on ${i.destination}, ${i.proven || 'not proven'}`,
  })),
)
const chosen = computed(() => references.value.find((i) => i.id === imageId.value))
watch(chosen, (now, before) => {
  if (now && (!name.value || name.value === before?.computer)) name.value = now.computer
})
const members = computed(() =>
  [...picked].filter(([, computer]) => computer.trim()).map(([targetId, computer]) => ({ computer: computer.trim(), targetId })),
)
const missing = computed(() => {
  if (!chosen.value) return 'Choose the image.'
  if (!picked.size) return 'Tick the disks it goes onto.'
  if (members.value.length < picked.size) return 'Name the computer of each disk.'
  return name.value.trim() ? '' : 'Name the rollout.'
})

/** The computer the disk is on record with; an empty string for none. */
const computerOf = (serial: string) =>
  (serial && computers.data.value?.computers.find((c) => c.disks.some((d) => d.serial === serial))?.name) || ''
function pick(id: string, proposed: string, on: boolean) {
  if (on) picked.set(id, proposed)
  else picked.delete(id)
}
const {
  act: make,
  busy,
  refused,
} = useAction(async () => {
  await client.POST('/api/v1/rollouts', { body: { name: name.value.trim(), imageId: imageId.value, members: members.value } })
  imageId.value = name.value = ''
  picked.clear()
  emit('made')
})
</script>

<template>
  <form @submit.prevent="make">
    <h2 class="section">A new rollout</h2>
    <p v-if="images.data.value && !references.length" class="notice">
      No image can be the reference yet: it must hold its whole disk, and lie on a drive that is attached.
      <RouterLink to="/images">See the images</RouterLink>
    </p>
    <SelectField
      v-model="imageId"
      class="image"
      label="Reference image"
      placeholder="choose"
      hint="made of one computer that is set up as all of them should be"
      :options="options"
    />
    <h3>Disks it goes onto</h3>
    <table v-if="here.length">
      <tbody>
        <tr v-for="t in here" :key="t.id" :class="{ soft: t.refusal }">
          <td>
            <label
              ><input
                type="checkbox"
                :checked="picked.has(t.id)"
                :disabled="!!t.refusal"
                @change="pick(t.id, computerOf(t.serial), ($event.target as HTMLInputElement).checked)"
              />
              <b>{{ t.name }}</b></label
            >
          </td>
          <td>{{ t.model ? `${t.model}, ` : '' }}{{ t.serial ? `serial ${t.serial}` : 'no serial' }}</td>
          <td class="number">{{ size(t.sizeBytes) }}</td>
          <td class="small">
            <TextField
              v-if="picked.has(t.id)"
              :model-value="picked.get(t.id)!"
              label="Its computer"
              :aria-label="`Computer of ${t.name}`"
              maxlength="60"
              @update:model-value="(text: string) => picked.set(t.id, text)"
            />
            <template v-else>{{ t.refusal }}</template>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="of('fixed').length" class="small">
      <label><input v-model="builtIn" type="checkbox" /> show {{ of('fixed').length }} disks that are built into computers</label>
    </p>
    <p v-else-if="targets.data.value && !here.length" class="soft">
      No disk that could be written is here. Put the disks into this machine or a dock, or let the computers join by their agents on
      <RouterLink to="/computers">Computers</RouterLink>.
    </p>
    <TextField v-model="name" class="name" label="Name of the rollout" maxlength="100" />
    <p class="does">
      <Button type="submit" label="Create the rollout" size="small" :loading="busy" :disabled="!!missing" />
      <span class="soft small">{{
        missing || `${counted(members.length, 'disk', 'disks')}. Nothing is written yet: each is confirmed by its own serial.`
      }}</span>
    </p>
    <p v-if="refused" class="notice" role="alert">{{ refused }}</p>
  </form>
</template>

<style scoped>
form { margin-top: 20px; max-width: 900px; }
h3 { font-size: 13px; font-weight: 400; color: var(--ink-soft); margin: 12px 0 2px; }
.image { max-width: 620px; }
.name { max-width: 300px; margin-top: 12px; }
td { vertical-align: baseline; }
td:first-child, td:nth-child(2) { white-space: nowrap; }
input[type='checkbox'] { accent-color: var(--grain); }
.does { display: flex; gap: 12px; align-items: baseline; margin: 10px 0; }
</style>
