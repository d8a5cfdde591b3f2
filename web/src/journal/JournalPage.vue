<script setup lang="ts">
import Button from 'primevue/button'
import { computed, reactive, ref } from 'vue'
import { answer, client } from '../api/client'
import { useAction } from '../api/useAction'
import PageHeading from '../frame/PageHeading.vue'
import { useInAddress } from '../frame/useInAddress'
import TextField from '../field/TextField.vue'
import { useTyped } from '../field/useTyped'
import SelectField from '../field/SelectField.vue'
import DateField from '../field/DateField.vue'
import CheckField from '../field/CheckField.vue'
import { formatClock } from '../measure/times'
import { useSession } from '../session/useSession'
import DayStrip from './DayStrip.vue'
import { byDay, exportPath, given } from './journalLines'
import { useJournal, useJournalChoices, useJournalDays } from '../query/journal'

const { mayAct } = useSession()
const chosen = reactive({ text: '', account: '', action: '', from: '', to: '' })
const note = ref('')
const signOff = ref(false)
const corrects = ref(0)
useInAddress(chosen)
const text = useTyped(
  () => chosen.text,
  (now) => (chosen.text = now),
)
const journal = useJournal(() => given(chosen))
const byDays = useJournalDays(() => given(chosen))
const choices = useJournalChoices()
const days = computed(() => byDay((journal.data.value?.pages ?? []).flatMap((p) => p.lines)))
const asOptions = (words: string[] | undefined) => (words ?? []).map((w) => ({ key: w, label: w }))
const accounts = computed(() => asOptions(choices.data.value?.accounts))
const actions = computed(() => asOptions(choices.data.value?.actions))
const filtered = computed(() => Object.keys(given(chosen)).length > 0)
const COLOURS: Record<string, string> = { done: 'moss', failed: 'brick', stopped: 'brick' }
const checked = ref<{ whole: boolean; sentence: string } | null>(null)

const { act: add, refused } = useAction(async () => {
  await client.POST('/api/v1/journal/notes', { body: { text: note.value, signOff: signOff.value, corrects: corrects.value } })
  note.value = ''
  corrects.value = 0
  signOff.value = false
  // while the first lines are still on their way, asking again only waits for those, and they were read before the note
  if (journal.isPending.value) await journal.refetch()
  await Promise.all([journal.refetch(), choices.refetch()])
})
const {
  act: check,
  busy: checking,
  refused: notChecked,
} = useAction(async () => {
  checked.value = await answer(client.GET('/api/v1/journal/check'))
})
</script>

<template>
  <PageHeading title="Journal"
    >{{ journal.data.value?.pages[0]?.total ?? 0 }} lines, each sealed with the one before. It only grows; a correction is a new line.
    <template #action
      ><div class="tools">
        <RouterLink to="/journal/report">Print a period</RouterLink
        ><Button label="Verify the journal" severity="secondary" outlined size="small" :loading="checking" @click="check" /></div
    ></template>
  </PageHeading>
  <p v-if="refused || notChecked" class="notice" role="alert">{{ refused || notChecked }}</p>
  <p v-if="checked" :class="checked.whole ? 'moss' : 'notice'" role="status">{{ checked.sentence }}</p>
  <div class="filters">
    <TextField v-model="text" label="Filter the journal" data-filter placeholder="Words in a line ( / )" />
    <SelectField v-model="chosen.account" label="By whom" :options="[{ key: '', label: 'anyone' }, ...accounts]" />
    <SelectField v-model="chosen.action" label="What" :options="[{ key: '', label: 'anything' }, ...actions]" />
    <DateField v-model="chosen.from" label="From" />
    <DateField v-model="chosen.to" label="To" />
    <span class="exports"
      >Export these as <a :href="exportPath('csv', chosen)" download>CSV</a> or
      <a :href="exportPath('jsonl', chosen)" download>JSON Lines</a></span
    >
  </div>
  <DayStrip
    v-if="byDays.data.value"
    :days="byDays.data.value"
    :from="chosen.from"
    :to="chosen.to"
    @choose="(day) => Object.assign(chosen, chosen.from === day && chosen.to === day ? { from: '', to: '' } : { from: day, to: day })"
  />
  <form v-if="mayAct" class="note" @submit.prevent="add">
    <TextField
      v-model="note"
      class="text"
      fluid
      maxlength="1900"
      label="Note"
      :placeholder="corrects ? `What is right instead of line ${corrects}` : 'For example: PEG-1 to the fire safe'"
    />
    <CheckField v-if="!corrects" v-model="signOff" label="a sign-off" />
    <button v-else type="button" class="figure small" @click="corrects = 0">no correction</button>
    <Button
      type="submit"
      :label="corrects ? `Correct line ${corrects}` : 'Add the note'"
      severity="secondary"
      outlined
      :disabled="!note.trim()"
    />
  </form>
  <section v-for="d in days" :key="d.day">
    <h2 class="section">{{ d.day }}</h2>
    <table>
      <tbody>
        <tr v-for="line in d.lines" :key="line.id">
          <td class="time" :title="`line ${line.id}, ${line.at}, seal ${line.seal.slice(0, 16)}`">{{ formatClock(line.at) }}</td>
          <td class="who">{{ line.account }}</td>
          <td class="what">
            {{ line.action }}<span v-if="line.result !== 'note'" :class="COLOURS[line.result]">, {{ line.result }}</span>
          </td>
          <td>
            <span v-if="line.corrects" class="soft">of line {{ line.corrects }}: </span>{{ line.sentence }}
            <RouterLink v-if="line.evidence" :to="line.evidence" class="small">evidence</RouterLink>
          </td>
          <td class="correct">
            <button
              v-if="mayAct"
              type="button"
              class="figure soft small"
              :aria-label="`Correct line ${line.id}`"
              @click="corrects = line.id"
            >
              correct
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  </section>
  <Button v-if="journal.hasNextPage.value" label="Show older lines" text @click="journal.fetchNextPage()" />
  <p v-if="!days.length && !journal.isPending.value" class="empty">
    {{
      filtered
        ? 'No line matches. Take something out of the filter.'
        : 'Who did what to which disk, when, and how it ended, is written here by itself.'
    }}
  </p>
</template>

<style scoped>
.tools { display: flex; gap: 16px; align-items: center; white-space: nowrap; }
.filters { display: flex; gap: 10px; align-items: end; margin-bottom: 12px; flex-wrap: wrap; font-size: 13.5px; }
.exports { margin-left: auto; }
.note { display: flex; gap: 10px; margin-bottom: 20px; align-items: end; }
.note .text { flex: 1; }
.note .p-button { flex: none; }
section { margin-bottom: 20px; }
h2.section.section { border-bottom: 1px solid var(--ink); padding-bottom: 6px; margin-bottom: 0; }
.time { width: 56px; }
.who { width: 100px; }
.what { width: 150px; }
.correct { width: 54px; text-align: right; opacity: 0; }
tr:hover .correct, tr:focus-within .correct { opacity: 1; }
</style>
