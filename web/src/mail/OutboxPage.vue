<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import { client, sentenceOf } from '../api/client'
import { useAction } from '../api/useAction'
import PageHeading from '../frame/PageHeading.vue'
import { formatMoment } from '../measure/times'
import { useSession } from '../session/useSession'
import { useChanged } from '../query/ask'
import { useMail } from '../query/journal'

const { mayAct } = useSession()
const changed = useChanged()
const mail = useMail()
const summary = computed(() => {
  const all = mail.data.value ?? []
  const kept = all.filter((m) => !m.sent).length
  return all.length
    ? `${all.length} ${all.length === 1 ? 'mail' : 'mails'}; ${kept ? `${kept} did not leave the house` : 'all of them went'}.`
    : 'No mail yet.'
})
const { act: again, refused } = useAction(async (id: number) => {
  await client.POST('/api/v1/mail/{id}/again', { params: { path: { id } } })
  await changed('mail')
})
</script>

<template>
  <PageHeading title="Outbox">{{ summary }}</PageHeading>
  <p v-if="mail.error.value || refused" class="notice" role="alert">{{ refused || sentenceOf(mail.error.value) }}</p>
  <article v-for="m in mail.data.value" :key="m.id">
    <h2>{{ m.subject }}</h2>
    <p class="soft small">{{ formatMoment(m.at) }}, to {{ m.to }}. {{ m.sent ? 'Sent.' : m.trouble }}</p>
    <pre>{{ m.text }}</pre>
    <Button v-if="!m.sent && mayAct" label="Send it again" size="small" severity="secondary" outlined @click="again(m.id)" />
  </article>
  <p v-if="mail.data.value && !mail.data.value.length" class="empty">
    One mail comes here for every night that was started, when its last image has ended: what was made, what was not, and why. Who gets it
    stands in each <RouterLink to="/plans">plan</RouterLink>.
  </p>
</template>

<style scoped>
article { border-top: 1px solid var(--ink); padding: 12px 0 18px; max-width: 860px; }
h2 { font-size: 18px; margin: 0; }
pre { font: inherit; white-space: pre-wrap; margin: 10px 0; }
</style>
