<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { sentenceOf } from '../api/client'
import type { Todo } from '../api/types'
import { useAction } from '../api/useAction'
import PageHeading from '../frame/PageHeading.vue'
import TallyMark from '../proof/TallyMark.vue'
import { formatAge, formatMoment } from '../measure/times'
import { useNow } from '../measure/useNow'
import UnfinishedList from '../run/UnfinishedList.vue'
import { useSession } from '../session/useSession'
import { doTodo } from './doTodo'
import { useFirstDay } from '../query/firstDay'
import { useToday } from '../query/today'

const now = useNow(30_000)
const { mayAct } = useSession()
const today = useToday()
const first = useFirstDay()
/** Unfinished captures have their own lines, with what can be done about them. */
const todos = computed(() => today.data.value?.todos.filter((t) => t.kind !== 'unfinished') ?? [])
const doing = ref('')
const said = ref('')
const THERE: Record<string, string> = {
  overdue: 'Plan the night',
  waiting: 'Enter the passphrase',
  never: 'Make a plan',
  places: 'See where they lie',
  unknown: 'Look through the drive',
}
const MARKS: Record<string, string> = {
  journal: '✕',
  damaged: '✕',
  missing: '✕',
  never: '○',
  unproven: '?',
  failed: '!',
  waiting: '…',
  overdue: '◷',
  release: '!',
  unknown: '?',
  trash: '?',
  restore: '…',
  place: '◣',
  rotation: '◣',
  places: '◣',
  files: '≡',
  copy: '≡',
  medium: '≡',
  silent: '◌',
}

const { act, refused } = useAction(async (todo: Todo) => {
  doing.value = todo.title
  said.value = ''
  try {
    said.value = await doTodo(todo)
  } finally {
    doing.value = ''
    await today.refetch()
  }
})
</script>

<template>
  <PageHeading title="Today"
    >{{ today.data.value?.sentence }}
    <template #action
      ><RouterLink to="/cover">Cover report</RouterLink>&ensp;<RouterLink to="/cards">If one dies today</RouterLink></template
    >
  </PageHeading>
  <p v-if="first.data.value && !first.data.value.left" class="notice" role="status">
    {{ first.data.value.sentence }} <RouterLink to="/first-day">Go on with the first day</RouterLink>
  </p>
  <p v-if="today.error.value" class="notice" role="alert">{{ sentenceOf(today.error.value) }}</p>
  <p v-if="refused" class="notice" role="alert">{{ refused }}</p>
  <p v-if="said" class="moss small" role="status">{{ said }}</p>
  <div v-if="today.data.value" class="columns">
    <section>
      <h2 class="section">What needs you</h2>
      <UnfinishedList :unfinished="today.data.value.unfinished" />
      <ol class="todos">
        <li v-for="t in todos" :key="t.title">
          <span class="mark" aria-hidden="true">{{ MARKS[t.kind] }}</span>
          <div>
            <RouterLink :to="t.to" class="title">{{ t.title }}</RouterLink>
            <p class="small">{{ t.reason }}</p>
          </div>
          <Button
            v-if="t.verb && mayAct"
            :label="t.label"
            size="small"
            severity="secondary"
            outlined
            :loading="doing === t.title"
            :aria-label="`${t.label}: ${t.title}`"
            @click="act(t)"
          />
          <RouterLink v-else :to="t.to" class="small">{{ THERE[t.kind] ?? 'See it' }}</RouterLink>
        </li>
      </ol>
      <p v-if="!todos.length && !today.data.value.unfinished.length" class="empty">
        Nothing. <RouterLink to="/night">Tonight</RouterLink> is planned on its own page.
      </p>
    </section>
    <section>
      <h2 class="section">How well the office is covered</h2>
      <table>
        <thead>
          <tr>
            <th>Disk</th>
            <th>Newest image</th>
            <th>Proof</th>
            <th>Against plan</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="c in today.data.value.cover" :key="c.diskId">
            <td>
              <RouterLink :to="`/computers/${c.computerId}/card`"
                ><b>{{ c.computer }}</b></RouterLink
              >
              {{ c.disk }}
            </td>
            <td>
              <span v-if="c.newest" :title="formatMoment(c.newest)">{{ formatAge(c.newest, now) }}, on {{ c.lies }}</span
              ><span v-else class="soft">none</span>
            </td>
            <td class="nowrap">
              <TallyMark :proof="c.proof" :damaged="false" /><span v-if="c.newest && c.stale" class="soft"> stale</span>
            </td>
            <td :class="c.state === 'late' || c.state === 'unproven' ? 'brick' : c.state === 'partly' ? 'grain' : ''">{{ c.words }}</td>
          </tr>
        </tbody>
      </table>
    </section>
  </div>
</template>

<style scoped>
.columns { display: grid; grid-template-columns: 1fr 1fr; gap: 34px; }
.todos { list-style: none; margin: 0; padding: 0; }
.todos li {
  display: grid;
  grid-template-columns: 22px 1fr auto;
  gap: 10px;
  padding: 9px 0;
  border-bottom: 1px solid var(--rule-soft);
  align-items: start;
}
.title { font-weight: 600; color: var(--ink); text-decoration: none; }
.title:hover { text-decoration: underline; }
.mark { color: var(--brick); font-weight: 600; text-align: center; }
.nowrap { white-space: nowrap; }
</style>
