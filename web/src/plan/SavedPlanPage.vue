<script setup lang="ts">
import Button from 'primevue/button'
import { computed, nextTick, ref } from 'vue'
import { useRouter } from 'vue-router'
import { answer, client, sentenceOf } from '../api/client'
import type { PlanForm } from '../api/types'
import { useAction } from '../api/useAction'
import { formatDay, formatMoment } from '../measure/times'
import { useSession } from '../session/useSession'
import { importedPlan } from './importedPlan'
import PassphraseField from '../run/PassphraseField.vue'
import PickDisk from './PickDisk.vue'
import PlanPage from './PlanPage.vue'
import { useChanged } from '../query/ask'
import { usePlan } from '../query/plans'

const props = defineProps<{ planId: string }>()
const router = useRouter()
const changed = useChanged()
const { mayAct } = useSession()
const copying = ref(false)
const removing = ref(false)
const gone = ref(false)
const secret = ref('')
const draft = importedPlan.value
importedPlan.value = null
const query = usePlan(() => props.planId)
const plan = computed(() => query.data.value)
const path = () => ({ path: { id: props.planId } })

async function fresh() {
  const [now] = await Promise.all([query.refetch(), changed('plans')])
  return now.data
}

async function save(form: PlanForm, version: number) {
  await client.PUT('/api/v1/plans/{id}', { params: { ...path(), header: { 'If-Match': `"${version}"` } }, body: form })
  await fresh()
}

const {
  act: pause,
  busy: pausing,
  refused: notPaused,
} = useAction(async () => {
  await client.POST('/api/v1/plans/{id}/pause', { params: path(), body: { paused: !plan.value!.paused } })
  await fresh()
})
const {
  act: runNow,
  busy: running,
  refused: notRun,
} = useAction(async () => {
  await client.POST('/api/v1/plans/{id}/runs', { params: path(), body: { passphrase: secret.value || null } })
  await router.push('/runs')
})
const {
  act: copy,
  busy: copies,
  refused: notCopied,
} = useAction(async (diskId: string) => {
  const made = await answer(client.POST('/api/v1/plans/{id}/copies', { params: path(), body: { diskId } }))
  await changed('plans')
  copying.value = false
  await router.push(`/plans/${made.id}`)
})
const {
  act: remove,
  busy: removes,
  refused: notRemoved,
} = useAction(async () => {
  await client.DELETE('/api/v1/plans/{id}', { params: path() })
  gone.value = true
  await nextTick()
  await changed('plans')
  await router.push('/plans')
})
</script>

<template>
  <p v-if="query.error.value" class="notice" role="alert">
    {{ sentenceOf(query.error.value) }} <RouterLink to="/plans">Back to the plans</RouterLink>
  </p>
  <PlanPage
    v-if="plan"
    :key="plan.id"
    :saved="plan"
    :draft="draft ?? undefined"
    :save="save"
    :gone="gone"
    :again="fresh"
  >
    <section class="after">
      <div>
        <h2 class="section">{{ plan.paused ? 'Paused' : 'Next nights' }}</h2>
        <p v-if="plan.paused">It does not run until you resume it.</p>
        <p v-else-if="plan.review.dueNights.length">{{ plan.review.dueNights.map(formatDay).join(', ') }}</p>
        <p v-else class="soft">Only when asked for.</p>
        <div class="tools">
          <a :href="`/api/v1/plans/${plan.id}/file`" download>Export as a file</a>
          <template v-if="mayAct">
            <button
              type="button"
              class="figure"
              :disabled="running || (plan.form.encrypted && !secret)"
              :title="plan.form.encrypted && !secret ? 'Enter the passphrase twice first' : 'Onto the drive whose turn it is, at once'"
              @click="runNow()"
            >
              Run it now
            </button>
            <button type="button" class="figure" @click="copying = !copying">Copy to another disk</button>
            <button type="button" class="figure" :disabled="pausing" @click="pause">
              {{ plan.paused ? 'Resume' : 'Pause' }}
            </button>
            <button type="button" class="figure brick" @click="removing = !removing">Remove</button>
          </template>
        </div>
        <p v-if="mayAct && plan.form.encrypted" class="small">To run it now: <PassphraseField v-model="secret" twice /></p>
        <p v-if="notRun" class="notice" role="alert">{{ notRun }}</p>
        <p v-if="notPaused" class="notice" role="alert">{{ notPaused }}</p>
        <PickDisk
          v-if="copying"
          question="The same plan for which disk?"
          action="Copy the plan"
          :busy="copies"
          :complaint="notCopied"
          @pick="copy"
          @leave="copying = false"
        />
        <div v-if="removing" class="removal" role="group" aria-label="Remove this plan">
          <p v-if="notRemoved" class="notice" role="alert">{{ notRemoved }}</p>
          <p>
            Remove <b>{{ plan.form.name }}</b>? It makes no more images. Those it made stay where they are, and its versions stay
            in the journal.
      Export it first if you may want it back.
          </p>
          <Button label="Remove the plan" severity="danger" size="small" :loading="removes" @click="remove" />
          <Button label="Keep it" severity="secondary" outlined size="small" @click="removing = false" />
        </div>
      </div>
      <div>
        <h2 class="section">Versions</h2>
        <ol reversed>
          <li v-for="v in plan.versions" :key="v.at + v.changes.join()">
            <span class="soft">{{ formatMoment(v.at) }}, {{ v.account }}:</span> {{ v.changes.join('; ') }}
          </li>
        </ol>
      </div>
    </section>
  </PlanPage>
</template>

<style scoped>
.after {
  display: grid;
  grid-template-columns: 5fr 6fr;
  gap: 30px;
  border-top: 1px solid var(--rule);
  margin-top: 14px;
  padding-top: 10px;
  font-size: 13.5px;
}
.tools { display: flex; gap: 16px; margin-top: 10px; }
.removal { display: flex; gap: 10px; flex-wrap: wrap; margin-top: 10px; }
.removal p { flex-basis: 100%; }
ol { margin: 0; padding-left: 22px; max-height: 150px; overflow-y: auto; }
</style>
