<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import AgentList from '../agent/AgentList.vue'
import { client, sentenceOf } from '../api/client'
import { useAction } from '../api/useAction'
import PageHeading from '../frame/PageHeading.vue'
import { useFirstDay } from '../query/firstDay'
import { useSession } from '../session/useSession'

/** What leads a new office; each step ticks itself. */
const router = useRouter()
const { mayAct } = useSession()
const page = useFirstDay()
const steps = computed(() => page.data.value?.steps ?? [])
const next = computed(() => steps.value.findIndex((step) => !step.done))
const WAYS: Record<string, { to: string; text: string }[]> = {
  office: [
    { to: '/settings', text: 'Name it' },
    { to: '/settings#hours', text: 'Set its hours' },
  ],
  drive: [
    { to: '/destinations', text: 'See the drives' },
    { to: '/prepare-drive', text: 'Prepare a blank one' },
  ],
  computers: [
    { to: '/import', text: 'Import a report' },
    { to: '/computers/new', text: 'Enter one by hand' },
  ],
  image: [{ to: '/computers', text: 'Choose a disk' }],
  proof: [{ to: '/images', text: 'Choose an image' }],
  plans: [{ to: '/plans', text: 'Plan' }],
  rescue: [{ to: '/rescue-media', text: 'Rescue media' }],
  places: [{ to: '/destinations', text: 'Note where drives are kept' }],
}
const {
  act: leave,
  busy,
  refused,
} = useAction(async (left: boolean) => {
  await client.PUT('/api/v1/first-day', { body: { left } })
  await page.refetch()
  if (left) await router.push('/today')
})
</script>

<template>
  <PageHeading title="The first day">
    {{ page.data.value?.sentence }}
    <template v-if="mayAct && page.data.value && !page.data.value.left" #action>
      <Button label="Leave this page; it stays under Settings" severity="secondary" outlined :loading="busy" @click="leave(true)" />
    </template>
  </PageHeading>
  <p v-if="page.error.value || refused" class="notice" role="alert">{{ refused || sentenceOf(page.error.value) }}</p>
  <ol>
    <li v-for="(step, i) in steps" :key="step.subject" :class="{ next: i === next, done: step.done }">
      <span class="number serif" aria-hidden="true">{{ step.done ? '✓' : i + 1 }}</span>
      <div>
        <h2 class="section">{{ step.title }}<span v-if="step.done" class="visually-hidden">, done</span></h2>
        <p class="soft">{{ step.text }}</p>
        <AgentList v-if="step.subject === 'computers' && i === next" />
      </div>
      <p class="ways">
        <RouterLink v-for="way in WAYS[step.subject]" :key="way.to" :to="way.to">{{ step.done ? 'change' : way.text }}</RouterLink>
      </p>
    </li>
  </ol>
</template>

<style scoped>
ol { list-style: none; margin: 14px 0 0; padding: 0; max-width: 1000px; }
li { display: grid; grid-template-columns: 36px 1fr 200px; gap: 12px; border-bottom: 1px solid var(--rule); padding: 14px 0; }
li.next { border-top: 1px solid var(--ink); }
.number { font-size: 22px; line-height: 1; color: var(--ink-soft); }
.next .number { color: var(--grain); }
.done .number { color: var(--moss); }
li h2.section.section { font-size: 15px; margin: 0 0 3px; }
li:not(.next, .done) h2.section.section { font-weight: 400; }
p { margin: 0; }
.ways { display: flex; flex-direction: column; gap: 4px; align-items: flex-start; }
.done .ways a:not(:first-child) { display: none; }
</style>
