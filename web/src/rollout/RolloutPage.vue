<script setup lang="ts">
import Button from 'primevue/button'
import { computed, reactive, ref } from 'vue'
import { client, sentenceOf } from '../api/client'
import { useAction } from '../api/useAction'
import PageHeading from '../frame/PageHeading.vue'
import TextField from '../field/TextField.vue'
import SelectField from '../field/SelectField.vue'
import { useUnits } from '../measure/useUnits'
import { formatMoment } from '../measure/times'
import ConfirmOverwrite from '../restore/ConfirmOverwrite.vue'
import PassphraseField from '../run/PassphraseField.vue'
import { useSession } from '../session/useSession'
import { useChanged } from '../query/ask'
import { useCopies } from '../query/images'
import { useRollouts } from '../query/restorations'
import { useTargets } from '../query/targets'

const { mayAct } = useSession()
const { size } = useUnits()
const changed = useChanged()
const rollouts = useRollouts()
const targets = useTargets()
const images = useCopies()
const name = ref('')
const imageId = ref('')
const members = reactive<{ computer: string; targetId: string }[]>([{ computer: '', targetId: '' }])
const current = ref('')
const secret = ref('')
const target = (id: string) => targets.data.value?.find((t) => t.id === id)
const choices = computed(() =>
  (targets.data.value ?? [])
    .filter((t) => t.kind === 'fixed' || t.kind === 'spare')
    .map((t) => ({ key: t.id, label: `${t.name}, ${t.model} ${t.serial}, ${size(t.sizeBytes)}`, disabled: !!t.refusal })),
)
const references = computed(() =>
  (images.data.value?.lines ?? [])
    .filter((one) => one.restorable && one.format === 'granary')
    .map((i) => ({ key: i.id, label: `${i.name}, on ${i.destination}, ${i.proven || 'not proven'}` })),
)

const {
  act: make,
  busy: making,
  refused: notMade,
} = useAction(async () => {
  await client.POST('/api/v1/rollouts', {
    body: { name: name.value, imageId: imageId.value, members: members.filter((m) => m.computer.trim() && m.targetId) },
  })
  name.value = ''
  members.splice(0, members.length, { computer: '', targetId: '' })
  await rollouts.refetch()
})
const {
  act: start,
  busy,
  refused,
} = useAction(async (id: string, computer: string, typed: string) => {
  await client.POST('/api/v1/rollouts/{id}/start', {
    params: { path: { id } },
    body: { computer, confirmation: typed, passphrase: secret.value || null },
  })
  current.value = ''
  await rollouts.refetch()
  void changed('restorations')
})
const { act: end, refused: notEnded } = useAction(async (id: string) => {
  await client.POST('/api/v1/rollouts/{id}/end', { params: { path: { id } } })
  await rollouts.refetch()
})
</script>

<template>
  <PageHeading title="One image onto many computers"
    >A reference image, a list of alike computers, each written, made unique, looked at and signed. The image is kept while that
    runs.</PageHeading
  >
  <p v-if="rollouts.error.value || notEnded" class="notice" role="alert">{{ notEnded || sentenceOf(rollouts.error.value) }}</p>
  <article v-for="r in rollouts.data.value" :key="r.id" class="rollout">
    <h2>
      {{ r.name }} <span class="soft">{{ r.imageName }}, begun {{ formatMoment(r.begunAt) }} by {{ r.begunBy }}</span>
    </h2>
    <p>{{ r.sentence }} <button v-if="mayAct && !r.endedAt" type="button" class="figure" @click="end(r.id)">end it</button></p>
    <table>
      <tbody>
        <template v-for="m in r.members" :key="m.computer">
          <tr>
            <td>
              <b>{{ m.computer }}</b>
            </td>
            <td>
              {{ m.target }}<span v-if="m.serial">, serial {{ m.serial }}</span>
            </td>
            <td class="number">{{ size(m.sizeBytes) }}</td>
            <td>
              {{ m.signedAt ? `signed by ${m.signedBy}` : m.state === 'done' ? 'written; look at it and sign on the Restore page' : m.state
              }}<span v-if="m.refusal" class="brick small"> {{ m.refusal }}</span>
            </td>
            <td class="number">
              <Button
                v-if="mayAct && !r.endedAt && (m.state === 'waiting' || m.state === 'failed') && !m.refusal"
                label="Write it…"
                size="small"
                severity="secondary"
                outlined
                @click="current = current === r.id + m.computer ? '' : r.id + m.computer"
              />
            </td>
          </tr>
          <tr v-if="current === r.id + m.computer && target(m.targetId)">
            <td colspan="5">
              <div v-if="r.encrypted" class="small"><PassphraseField v-model="secret" /></div>
              <ConfirmOverwrite
                :target="target(m.targetId)!"
                :verb="`Overwrite the disk of ${m.computer}`"
                :busy="busy"
                :refused="refused"
                :blocked="r.encrypted && !secret"
                @confirmed="(typed) => start(r.id, m.computer, typed)"
              />
            </td>
          </tr>
        </template>
      </tbody>
    </table>
    <p class="small soft">To be made unique on each: {{ r.unique.join('; ') }}.</p>
  </article>
  <form v-if="mayAct" class="new" @submit.prevent="make">
    <h2 class="section">A new rollout</h2>
    <p v-if="notMade" class="notice" role="alert">{{ notMade }}</p>
    <div class="does">
      <TextField v-model="name" label="Name of the rollout" maxlength="100" />
      <SelectField v-model="imageId" label="Reference image" placeholder="choose" :options="references" />
    </div>
    <div v-for="(m, n) in members" :key="n" class="does">
      <TextField v-model="m.computer" maxlength="60" :label="`Computer ${n + 1}`" />
      <SelectField v-model="m.targetId" :label="`Disk of computer ${n + 1}`" placeholder="choose" :options="choices" />
    </div>
    <p class="does">
      <Button label="One more computer" size="small" severity="secondary" text @click="members.push({ computer: '', targetId: '' })" />
      <Button
        type="submit"
        label="Make the list"
        size="small"
        :loading="making"
        :disabled="!name.trim() || !imageId || !members.some((m) => m.computer.trim() && m.targetId)"
      />
    </p>
  </form>
</template>

<style scoped>
.rollout { border-top: 1px solid var(--rule); padding: 10px 0; max-width: 980px; }
h2 { font-size: 20px; margin: 0; }
h2 .soft { font-size: 14px; font-weight: 400; }
.new { margin-top: 20px; max-width: 900px; }
.does { display: flex; gap: 10px; align-items: end; margin: 6px 0; }
</style>
