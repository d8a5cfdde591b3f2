<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { answer, client, sentenceOf } from '../api/client'
import { useAction } from '../api/useAction'
import NumberField from '../field/NumberField.vue'
import SelectField from '../field/SelectField.vue'
import TextField from '../field/TextField.vue'
import { useMailServer } from '../query/mail'
import { useSession } from '../session/useSession'

/** The server that carries the office's mail, and a test mail by it. */
const { mayAct } = useSession()
const server = useMailServer()
const form = ref({ host: '', port: 587, security: 'starttls', account: '', sender: '' })
const password = ref('')
const to = ref('')
const said = ref('')
watch(
  () => server.data.value,
  (fresh) => {
    if (fresh)
      form.value = { host: fresh.host, port: fresh.port, security: fresh.security, account: fresh.account, sender: fresh.sender }
  },
  { immediate: true },
)
const SECURITY = [
  { key: 'starttls', label: 'STARTTLS (usually port 587)' },
  { key: 'tls', label: 'TLS (usually port 465)' },
  { key: 'none', label: 'none, for a server on this machine' },
]
const set = computed(() => !!server.data.value?.host)
async function put() {
  const same = password.value === '' && !!server.data.value?.hasPassword && form.value.account !== ''
  await client.PUT('/api/v1/mail-server', {
    params: { header: { 'If-Match': `"${server.data.value!.version}"` } },
    body: { ...form.value, password: password.value, samePassword: same },
  })
  password.value = ''
  await server.refetch()
}
const {
  act: save,
  busy,
  refused,
} = useAction(async () => {
  said.value = ''
  await put()
  said.value = 'Saved. Send a test mail.'
})
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
  await server.refetch()
  said.value = 'Removed. Mails stay in the outbox.'
})
</script>

<template>
  <section>
    <h2 class="section">Mail server</h2>
    <p
      v-for="why in [server.error.value && sentenceOf(server.error.value), refused, notSent, notRemoved].filter(Boolean)"
      :key="String(why)"
      class="notice"
      role="alert"
    >
      {{ why }}
    </p>
    <p v-if="said" role="status" class="moss">{{ said }}</p>
    <p v-if="!set" class="small soft">
      None is set up: every mail stays in the <RouterLink to="/outbox">outbox</RouterLink> to be read there.
    </p>
    <form @submit.prevent="save">
      <fieldset :disabled="!mayAct">
        <div class="line">
          <TextField v-model="form.host" label="Host" maxlength="255" placeholder="mail.example.org" />
          <NumberField v-model="form.port" label="Port" min="1" max="65535" />
          <SelectField v-model="form.security" label="Security" :options="SECURITY" />
        </div>
        <div class="line">
          <TextField v-model="form.account" label="Account" maxlength="255" placeholder="none" autocomplete="off" />
          <TextField
            v-model="password"
            type="password"
            label="Password"
            maxlength="1000"
            autocomplete="off"
            :placeholder="server.data.value?.hasPassword ? 'stays as it is' : ''"
          />
          <TextField v-model="form.sender" label="Mails come from" maxlength="255" placeholder="granary@example.org" />
          <Button
            type="submit"
            label="Save the mail server"
            size="small"
            severity="secondary"
            outlined
            :loading="busy"
            :disabled="!form.host"
          />
          <Button v-if="set" type="button" label="Remove it" size="small" severity="secondary" text @click="remove" />
        </div>
      </fieldset>
    </form>
    <form v-if="set" class="line" @submit.prevent="test">
      <TextField v-model="to" label="Test mail to" maxlength="255" :disabled="!mayAct" />
      <Button
        type="submit"
        label="Send a test mail"
        size="small"
        severity="secondary"
        outlined
        :loading="testing"
        :disabled="!to || !mayAct"
      />
    </form>
  </section>
</template>

<style scoped>
fieldset { border: 0; padding: 0; margin: 0; max-width: 940px; }
h2.section.section { margin: 20px 0 8px; }
.line { display: flex; gap: 20px; flex-wrap: wrap; align-items: end; margin-bottom: 8px; }
</style>
