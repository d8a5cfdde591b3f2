<script setup lang="ts">
import Button from 'primevue/button'
import { reactive, ref } from 'vue'
import { useRouter } from 'vue-router'
import { client } from '../api/client'
import type { Unfinished } from '../api/types'
import { useAction } from '../api/useAction'
import { useUnits } from '../measure/useUnits'
import { formatMoment } from '../measure/times'
import { useSession } from '../session/useSession'
import PassphraseField from './PassphraseField.vue'
import { useChanged } from '../query/ask'

/** Captures that did not come to their end, with what can be done: carry on, or discard. */
defineProps<{ unfinished: readonly Unfinished[] }>()
const { size } = useUnits()
const { mayAct } = useSession()
const router = useRouter()
const changed = useChanged()
const asking = ref('')
const secrets = reactive<Record<string, string>>({})
const key = (u: Unfinished) => `${u.destinationId}/${u.name}`

const {
  act: carryOn,
  busy,
  refused,
} = useAction(async (u: Unfinished) => {
  await client.POST('/api/v1/unfinished/{destinationId}/{name}/carry-on', {
    params: { path: { destinationId: u.destinationId, name: u.name } },
    body: { passphrase: secrets[key(u)] || null },
  })
  await router.push('/runs')
})
const { act: discard, refused: notDiscarded } = useAction(async (u: Unfinished) => {
  asking.value = ''
  await client.DELETE('/api/v1/unfinished/{destinationId}/{name}', { params: { path: { destinationId: u.destinationId, name: u.name } } })
  void changed('today', 'unfinished', 'destinations', 'journal')
})
</script>

<template>
  <p v-if="refused || notDiscarded" class="notice" role="alert">{{ refused || notDiscarded }}</p>
  <article v-for="u in unfinished" :key="key(u)" class="unfinished">
    <p>
      <b>{{ u.disk ? `${u.disk}: ` : '' }}{{ u.name }} is not finished</b>
    </p>
    <p class="small">{{ u.why || 'A capture did not come to its end.' }}</p>
    <p v-if="!u.carryable" class="small soft">
      {{ size(u.storedBytes) }} on {{ u.destination }} are left of it. It cannot be carried on; discard it and begin anew, or copy the image
      again, which replaces it.
    </p>
    <p v-else class="small soft">
      {{ Math.round(u.doneShare * 100) }} % of the disk is on {{ u.destination }}, {{ size(u.storedBytes) }}, begun
      {{ formatMoment(u.begunAt) }}. It is no image yet.
    </p>
    <div v-if="mayAct" class="does">
      <template v-if="asking !== key(u)">
        <PassphraseField
          v-if="u.encrypted"
          :model-value="secrets[key(u)] ?? ''"
          @update:model-value="(v: string) => (secrets[key(u)] = v)"
        />
        <Button
          v-if="u.carryable"
          label="Carry on"
          size="small"
          :loading="busy"
          :disabled="!u.diskKnown || (u.encrypted && !secrets[key(u)])"
          :title="u.diskKnown ? '' : 'Its disk is not in this office'"
          @click="carryOn(u)"
        />
        <Button label="Discard" size="small" severity="secondary" outlined @click="asking = key(u)" />
      </template>
      <template v-else>
        <span class="small">{{ size(u.storedBytes) }} on {{ u.destination }} are removed; the disk and finished images stay.</span>
        <Button label="Discard what was written" severity="danger" size="small" @click="discard(u)" />
        <Button label="Keep it" text size="small" autofocus @click="asking = ''" />
      </template>
    </div>
  </article>
</template>

<style scoped>
.unfinished { border-left: 3px solid var(--brick); padding: 4px 0 8px 14px; margin-bottom: 14px; }
.does { display: flex; gap: 10px; align-items: center; flex-wrap: wrap; margin-top: 8px; }
</style>
