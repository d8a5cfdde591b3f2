<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import TextField from '../field/TextField.vue'
import { answer, client, Refusal, sentenceOf } from '../api/client'
import { useAction } from '../api/useAction'
import SelectField from '../field/SelectField.vue'
import { formatMoment } from '../measure/times'
import { useSession } from '../session/useSession'
import { useAccounts } from '../query/accounts'

const { session, mayAct, signOut } = useSession()
const router = useRouter()
const accounts = useAccounts()
const name = ref('')
const role = ref('viewer')
const link = ref('')
const old = ref('')
const password = ref('')
const again = ref('')
const said = ref('')

const { act: invite, refused: notInvited } = useAction(async () => {
  link.value =
    location.origin +
    (await answer(client.POST('/api/v1/accounts/invitations', { body: { name: name.value.trim(), role: role.value } }))).path
  name.value = ''
  await accounts.refetch()
})
const { act: change, refused: notChanged } = useAction(async (who: string, wanted: string, closed: boolean) => {
  await client.PUT('/api/v1/accounts/{name}', { params: { path: { name: who } }, body: { role: wanted, closed } })
  await accounts.refetch()
})
const { act: renew, refused: notRenewed } = useAction(async () => {
  if (password.value !== again.value)
    throw new Refusal('bad-choice', 'The two new passwords differ. Type the same one twice.', 'password', 0)
  await client.POST('/api/v1/account/password', { body: { old: old.value, password: password.value } })
  old.value = password.value = again.value = ''
  said.value = 'The password is changed; every other sign-in of this account has ended.'
})
const { act: out, refused: notOut } = useAction(async () => {
  await client.POST('/api/v1/account/sign-out-everywhere')
  await signOut()
  await router.push('/sign-in')
})
</script>

<template>
  <section>
  <h2 class="section">Accounts</h2>
  <p class="small soft">
    Technicians do the work, viewers only look. Every line of the journal is signed by the account that did it.
  </p>
  <p
    v-for="why in [accounts.error.value && sentenceOf(accounts.error.value), notInvited, notChanged, notRenewed, notOut].filter(Boolean)"
    :key="String(why)"
    class="notice"
    role="alert"
  >
    {{ why }}
  </p>
  <p v-if="said" role="status" class="moss">{{ said }}</p>
  <table>
    <thead>
      <tr>
        <th>Name</th>
        <th>May</th>
        <th>Since</th>
        <td></td>
      </tr>
    </thead>
    <tbody>
      <tr v-for="a in accounts.data.value?.accounts" :key="a.name">
        <td>
          <b>{{ a.name }}</b><span v-if="a.name === session?.name" class="soft"> (you)</span>
        </td>
        <td>{{ a.closedAt ? 'not sign in any more' : a.role === 'technician' ? 'do the work' : 'look' }}</td>
        <td>{{ formatMoment(a.createdAt) }}</td>
        <td v-if="mayAct" class="number">
          <button type="button" class="figure" @click="change(a.name, a.role === 'technician' ? 'viewer' : 'technician', !!a.closedAt)">
            make {{ a.role === 'technician' ? 'a viewer' : 'a technician' }}</button
          >&ensp;
          <button type="button" class="figure" @click="change(a.name, a.role, !a.closedAt)">
            {{ a.closedAt ? 'open again' : 'close' }}
          </button>
        </td>
      </tr>
      <tr v-for="i in accounts.data.value?.invitations" :key="i.name" class="soft">
        <td>{{ i.name }}</td>
        <td>invited to {{ i.role === 'technician' ? 'do the work' : 'look' }}</td>
        <td>{{ formatMoment(i.madeAt) }} by {{ i.madeBy }}</td>
        <td></td>
      </tr>
    </tbody>
  </table>
  <form v-if="mayAct" @submit.prevent="invite">
    <h3>Invite someone</h3>
    <TextField label="Name of the invited" v-model="name" maxlength="60" />
    <SelectField
      v-model="role"
      label="What they may do"
      :options="[
        { key: 'viewer', label: 'look' },
        { key: 'technician', label: 'do the work' },
      ]"
    />
    <Button type="submit" label="Make the invitation" size="small" severity="secondary" outlined :disabled="!name.trim()" />
    <p v-if="link" class="link">
      Hand this link over; it works once, for seven days, and is shown only now: <code>{{ link }}</code>
    </p>
  </form>
  <form @submit.prevent="renew">
    <h3>Your password</h3>
    <TextField label="Password so far" v-model="old" type="password" autocomplete="current-password" />
    <TextField label="New password" v-model="password" type="password" autocomplete="new-password" />
    <TextField label="New password once more" v-model="again" type="password" autocomplete="new-password" />
    <Button type="submit" label="Change it" size="small" severity="secondary" outlined :disabled="!old || !password" />
  </form>
  <p class="out">
    <Button label="Sign out everywhere" size="small" severity="secondary" outlined @click="out" />
    <span class="soft small">on this and every other device where you are signed in</span>
  </p>
  </section>
</template>

<style scoped>
table { max-width: 860px; }
form { display: flex; gap: 10px; flex-wrap: wrap; align-items: end; margin-top: 22px; max-width: 860px; }
h3 { width: 100%; margin: 0; font-size: 14px; }
.link { width: 100%; }
code { overflow-wrap: anywhere; user-select: all; }
.out { margin-top: 24px; }
</style>
