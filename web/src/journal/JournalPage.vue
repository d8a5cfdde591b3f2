<script setup lang="ts">
import { useInfiniteQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import { answer, client } from '../api/client'
import type { JournalLine } from '../api/types'
import { useAction } from '../api/useAction'
import PageHeading from '../frame/PageHeading.vue'
import { useSession } from '../session/useSession'

const { mayAct } = useSession()
const filter = ref('')
const note = ref('')
const journal = useInfiniteQuery({
  queryKey: ['journal'],
  queryFn: ({ pageParam }) => answer(client.GET('/api/v1/journal', { params: { query: pageParam ? { before: pageParam } : {} } })),
  initialPageParam: 0,
  getNextPageParam: (last) => (last.lines.length < 100 ? undefined : last.lines.at(-1)?.id),
})
const lines = computed(() => (journal.data.value?.pages ?? []).flatMap((p) => p.lines)
  .filter((l) => `${l.account} ${l.action} ${l.subject} ${l.result} ${l.sentence}`.toLowerCase().includes(filter.value.toLowerCase())))
const days = computed(() => {
  const out: { day: string; lines: JournalLine[] }[] = []
  for (const line of lines.value) {
    const day = new Date(line.at).toLocaleDateString('en-GB', { weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' })
    if (out.at(-1)?.day !== day) out.push({ day, lines: [] })
    out.at(-1)!.lines.push(line)
  }
  return out
})
const COLOURS: Record<string, string> = { done: 'moss', failed: 'brick', stopped: 'brick' }

function time(iso: string): string {
  return new Date(iso).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
}

const { act: add, refused } = useAction(async () => {
  await client.POST('/api/v1/journal/notes', { body: { text: note.value, signOff: false, corrects: 0 } })
  note.value = ''
  // while the first lines are still on their way, asking again only waits for those, and they were read before the note
  if (journal.isPending.value) await journal.refetch()
  await journal.refetch()
})
</script>

<template>
  <PageHeading title="Journal">{{ journal.data.value?.pages[0]?.total ?? 0 }} lines. It only grows; a correction is a new line.
    <template #action><div class="tools"><a href="/api/v1/journal/csv" download>Export as CSV</a><InputText v-model="filter" data-filter placeholder="Filter ( / )" aria-label="Filter the journal" /></div></template>
  </PageHeading>
  <p v-if="refused" class="notice" role="alert">{{ refused }}</p>
  <form v-if="mayAct" class="note" @submit.prevent="add">
    <InputText v-model="note" fluid maxlength="1900" placeholder="Write a note, for example: PEG-1 to the fire safe" aria-label="Note" />
    <Button type="submit" label="Add the note" severity="secondary" outlined :disabled="!note.trim()" />
  </form>
  <section v-for="d in days" :key="d.day">
    <h3>{{ d.day }}</h3>
    <table>
      <tbody>
        <tr v-for="line in d.lines" :key="line.id">
          <td class="time" :title="line.at">{{ time(line.at) }}</td>
          <td class="who">{{ line.account }}</td>
          <td class="what">{{ line.action }}<span v-if="line.result !== 'note'" :class="COLOURS[line.result]">, {{ line.result }}</span></td>
          <td>{{ line.sentence }}</td>
        </tr>
      </tbody>
    </table>
  </section>
  <Button v-if="journal.hasNextPage.value" label="Show older lines" text @click="journal.fetchNextPage()" />
  <p v-if="!lines.length && !journal.isPending.value" class="empty">{{ filter ? `No line matches "${filter}".` : 'Who did what to which disk, when, and how it ended, is written here by itself.' }}</p>
</template>

<style scoped>
.tools { display: flex; gap: 16px; align-items: center; }
.note { display: flex; gap: 10px; margin-bottom: 20px; }
.note .p-button { flex: none; }
section { margin-bottom: 20px; }
h3 { border-bottom: 1px solid var(--ink); padding-bottom: 6px; margin-bottom: 0; }
.time { width: 56px; }
.who { width: 110px; }
.what { width: 170px; }
</style>
