<script setup lang="ts">
import Button from 'primevue/button'
import { computed, reactive, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { answer, client, sentenceOf } from '../api/client'
import type { Night } from '../api/types'
import { useAction } from '../api/useAction'
import PageHeading from '../frame/PageHeading.vue'
import { useMargin } from '../frame/useMargin'
import { useAnswered } from '../query/ask'
import { useSession } from '../session/useSession'
import { formatDay } from '../measure/times'
import PassphraseField from '../run/PassphraseField.vue'
import NightChoices from './NightChoices.vue'
import NightMisfits from './NightMisfits.vue'
import NightStrip from './NightStrip.vue'
import NightTodos from './NightTodos.vue'
import type { Wish } from './wish'
import { useNight } from '../query/today'

const route = useRoute()
const router = useRouter()
const answered = useAnswered()
const margin = useMargin()
const { mayAct } = useSession()
const chosen = ref('')
const date = computed(() => (typeof route.query.date === 'string' ? route.query.date : undefined))
const query = useNight(() => date.value)
const night = computed(() => query.data.value)
const shownRow = computed(() => night.value?.rows.find((r) => r.planId === chosen.value))
watch(date, () => (chosen.value = ''))
watch(night, () => shownRow.value && margin.refresh(shownRow.value.working))

function show(planId: string) {
  const row = night.value?.rows.find((r) => r.planId === planId)
  if (row) margin.open(row.working)
  else margin.close()
}

function go(days: number) {
  const at = new Date(`${night.value!.date}T12:00:00Z`)
  at.setUTCDate(at.getUTCDate() + days)
  router.push({ query: { date: at.toISOString().slice(0, 10) } })
}

const {
  act: wish,
  busy,
  refused,
} = useAction(async (planId: string, what: Wish) => {
  const body = {
    start: what.start ?? null,
    driveId: what.driveId ?? null,
    leftOut: what.leftOut ?? false,
    askedFor: what.askedFor ?? false,
  }
  take(await answer(client.PUT('/api/v1/night/{date}/plans/{planId}', { params: { path: { date: night.value!.date, planId } }, body })))
})
const { act: tick, refused: notTicked } = useAction(async (planId: string, item: string, done: boolean) => {
  take(
    await answer(client.PUT('/api/v1/night/{date}/ticks', { params: { path: { date: night.value!.date } }, body: { planId, item, done } })),
  )
})

/** Those that start by themselves, when not all do. */
const byThemselves = computed(() => night.value?.rows.filter((r) => r.queued) ?? [])
const starting = ref(false)
const secrets = reactive<Record<string, string>>({})
const locked = computed(() => night.value?.rows.filter((r) => r.encrypted) ?? [])
const {
  act: startNight,
  busy: startBusy,
  refused: notStarted,
} = useAction(async () => {
  take(
    await answer(
      client.POST('/api/v1/night/{date}/start', { params: { path: { date: night.value!.date } }, body: { passphrases: { ...secrets } } }),
    ),
  )
  starting.value = false
  await router.push('/runs')
})

function take(fresh: Night) {
  answered(['night', date.value ?? ''], fresh)
}
</script>

<template>
  <PageHeading :title="night?.title ?? 'Night'">
    <template v-if="night">{{ night.sentence }}</template><template v-else-if="!query.error.value">Weighing what is due…</template>
    <template #action>
      <div class="nights">
        <Button
          v-if="night?.tonight && night.rows.length"
          :label="night.started ? 'Start it again as planned now' : 'Start the night'"
          :outlined="night.started"
          :severity="night.started ? 'secondary' : undefined"
          :disabled="!mayAct"
          :loading="startBusy"
          @click="locked.length ? (starting = true) : startNight()"
        />
        <Button label="‹ Night before" severity="secondary" outlined :disabled="!night || night.tonight" @click="go(-1)" />
        <Button label="Next night ›" severity="secondary" outlined :disabled="!night" @click="go(1)" />
      </div>
    </template>
  </PageHeading>
  <p v-if="query.error.value" class="notice" role="alert">
    {{ sentenceOf(query.error.value) }} <RouterLink to="/night">Show tonight</RouterLink>
  </p>
  <p v-if="refused || notTicked" class="notice" role="alert">{{ refused || notTicked }}</p>
  <p v-if="notStarted" class="notice" role="alert">{{ notStarted }}</p>
  <section v-if="starting" class="secrets">
    <h2 class="section">Passphrases for tonight</h2>
    <p class="small soft">
      They are kept in memory until each image is made, and nowhere else. If Granary is ended before, they are asked for again.
    </p>
    <p v-for="row in locked" :key="row.planId">
      <b>{{ row.plan }}</b>
      <PassphraseField
        twice
        :label="`Passphrase for ${row.plan}`"
        :model-value="secrets[row.planId] ?? ''"
        @update:model-value="(v: string) => (secrets[row.planId] = v)"
      />
    </p>
    <Button
      label="Start the night"
      size="small"
      :disabled="locked.some((r) => !secrets[r.planId])"
      :loading="startBusy"
      @click="startNight()"
    />
    <Button label="Not yet" size="small" text @click="starting = false" />
  </section>
  <template v-if="night">
    <template v-if="night.rows.length || night.misfits.length">
      <p v-if="night.started" class="small">
        The night is started: its images wait in <RouterLink to="/runs">Runs</RouterLink> for their time.
      </p>
      <p v-else-if="byThemselves.length" class="small">
        {{ byThemselves.length }} of {{ night.rows.length }} wait in <RouterLink to="/runs">Runs</RouterLink> already:
        {{ byThemselves.map((r) => r.computer).sort().join(', ') }}. Start the night for the others.
      </p>
      <NightStrip v-model="chosen" :night="night" @show="show" />
      <NightChoices v-if="chosen" :key="chosen" :night="night" :plan-id="chosen" :busy="busy" :may-act="mayAct" @wish="wish" />
      <div class="columns">
        <NightTodos :todos="night.todos" :zone="night.zone" :may-act="mayAct" @tick="tick" />
        <NightMisfits :misfits="night.misfits" :may-act="mayAct" @wish="wish" />
      </div>
    </template>
    <p v-else class="empty">
      Nothing is due. <RouterLink to="/plans">Plans</RouterLink> say what is imaged how often; what is due on a night is put in order here.
    </p>
    <section v-if="night.notRun.length" class="idle small">
      <h2 class="section">Not that night</h2>
      <p v-for="idle in night.notRun" :key="idle.planId">
        <RouterLink :to="`/plans/${idle.planId}`">{{ idle.plan }}</RouterLink><span class="soft">{{
          idle.leftOut
            ? ', left out by hand'
            : idle.paused
              ? ', paused'
              : idle.due
                ? `, due ${formatDay(idle.due)}`
                : ', only when asked for'
        }}</span>
        <button v-if="mayAct" type="button" class="figure" @click="wish(idle.planId, idle.leftOut ? {} : { askedFor: true })">
          {{ idle.leftOut ? 'take it back in' : 'run it too' }}
        </button>
      </p>
    </section>
    <p v-if="night.paceNote" class="soft small">{{ night.paceNote }}.</p>
  </template>
</template>

<style scoped>
.nights { display: flex; gap: 10px; }
.secrets { border-left: 3px solid var(--grain); padding: 4px 0 10px 14px; margin-bottom: 14px; }
.secrets p { margin-bottom: 8px; }
.columns { display: grid; grid-template-columns: 1fr 1fr; gap: 30px; }
.idle { border-top: 1px solid var(--rule); margin: 14px 0 8px; padding-top: 8px; columns: 2; column-gap: 30px; }
.idle h2.section.section { column-span: all; }
.idle p { margin-bottom: 3px; }
.idle button { margin-left: 8px; }
</style>
