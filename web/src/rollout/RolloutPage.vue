<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import { client, sentenceOf } from '../api/client'
import { useAction } from '../api/useAction'
import PageHeading from '../frame/PageHeading.vue'
import { useUnits } from '../measure/useUnits'
import { formatMoment } from '../measure/times'
import ConfirmOverwrite from '../restore/ConfirmOverwrite.vue'
import PassphraseField from '../run/PassphraseField.vue'
import { useSession } from '../session/useSession'
import { useChanged } from '../query/ask'
import { useRollouts } from '../query/restorations'
import { useTargets } from '../query/targets'
import NewRollout from './NewRollout.vue'

const { mayAct } = useSession()
const { size } = useUnits()
const changed = useChanged()
const rollouts = useRollouts()
const targets = useTargets()
const current = ref('')
const secret = ref('')
const target = (id: string) => targets.data.value?.find((t) => t.id === id)
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
    >Each disk is written, made unique, looked at and signed. The image is kept until the rollout is ended.</PageHeading
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
  <NewRollout v-if="mayAct" @made="rollouts.refetch()" />
</template>

<style scoped>
.rollout { border-top: 1px solid var(--rule); padding: 10px 0; max-width: 980px; }
h2 { font-size: 20px; margin: 0; }
h2 .soft { font-size: 14px; font-weight: 400; }
</style>
