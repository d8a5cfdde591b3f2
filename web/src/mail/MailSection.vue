<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { answer, client } from '../api/client'
import type { MailServer } from '../api/types'
import { useAction } from '../api/useAction'
import NumberField from '../field/NumberField.vue'
import SelectField from '../field/SelectField.vue'
import TextField from '../field/TextField.vue'
import { useChanged } from '../query/ask'

/** The server that carries the office's mail, and a test mail by it. */
const props = defineProps<{ known: MailServer }>()
const form = defineModel<Omit<MailServer, 'hasPassword' | 'version'>>({ required: true })
const password = defineModel<string>('password', { required: true })
const changed = useChanged()
const to = ref('')
const said = ref('')
const SECURITY = [
  { key: 'starttls', label: 'STARTTLS (usually port 587)' },
  { key: 'tls', label: 'TLS (usually port 465)' },
  { key: 'none', label: 'none, for a server on this machine' },
]
const set = computed(() => !!props.known.host)
const {
  act: test,
  busy: testing,
  refused: notSent,
} = useAction(async () => {
  said.value = ''
  said.value = (await answer(client.POST('/api/v1/mail-server/test', { body: { to: to.value } }))).sentence
})
const { act: remove, refused: notRemoved } = useAction(async () => {
  said.value = ''
  await client.DELETE('/api/v1/mail-server')
  await changed('mail-server')
  said.value = 'Removed. Mails stay in the outbox.'
})
</script>

<template>
  <section>
    <h2 class="section">Mail</h2>
    <p v-if="!set" class="small soft">
      No mail server is set up: every mail stays in the <RouterLink to="/outbox">outbox</RouterLink> to be read there.
    </p>
    <div class="line">
      <TextField v-model="form.host" name="host" label="Mail server" hint="like mail.example.org" maxlength="255" />
      <NumberField v-model="form.port" name="port" label="Port" min="1" max="65535" />
      <SelectField v-model="form.security" name="security" label="Security" :options="SECURITY" />
    </div>
    <div class="line">
      <TextField v-model="form.account" name="account" label="Account" hint="empty for none" maxlength="255" autocomplete="off" />
      <TextField
        v-model="password"
        name="password"
        type="password"
        label="Password of the account"
        maxlength="1000"
        autocomplete="off"
        :hint="known.hasPassword ? 'empty: it stays as it is' : 'empty for none'"
      />
      <TextField v-model="form.sender" name="sender" label="Mails come from" hint="like granary@example.org" maxlength="255" />
    </div>
    <div v-if="set" class="line">
      <TextField v-model="to" label="Test mail to" maxlength="255" @keydown.enter.prevent="to && test()" />
      <Button
        type="button"
        label="Send a test mail"
        size="small"
        severity="secondary"
        outlined
        :loading="testing"
        :disabled="!to"
        @click="test"
      />
      <Button type="button" label="Remove the mail server" size="small" severity="secondary" text @click="remove" />
    </div>
    <p role="status" class="moss">{{ said }}</p>
    <p v-for="why in [notSent, notRemoved].filter(Boolean)" :key="why" class="notice" role="alert">{{ why }}</p>
  </section>
</template>
