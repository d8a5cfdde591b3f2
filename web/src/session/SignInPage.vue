<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { Refusal } from '../api/client'
import { useAction } from '../api/useAction'
import '../look/useTheme'
import { useSession } from './useSession'

import TextField from '../field/TextField.vue'
const { session, signIn, createFirst } = useSession()
const router = useRouter()
const route = useRoute()
const name = ref('')
const password = ref('')
const again = ref('')
/** It came with the address that was printed; the router carries it over from the page that was asked for. */
const word = ref(String(route.query.word ?? ''))
const printed = word.value !== ''
const first = computed(() => session.value?.firstVisit === true)

const {
  act: submit,
  busy,
  refused,
} = useAction(async () => {
  if (first.value && password.value !== again.value)
    throw new Refusal('bad-choice', 'The two passwords differ. Type the same one twice.', 'password', 0)
  const made = first.value
  await (made ? createFirst(name.value.trim(), password.value, word.value.trim()) : signIn(name.value.trim(), password.value))
  const asked = String(route.query.then ?? '/today')
  const then = made && asked === '/today' ? '/first-day' : asked // who asked for a page of its own gets that
  await router.push(then.startsWith('/') && !then.startsWith('//') ? then : '/')
})
</script>

<template>
  <div class="page">
    <form @submit.prevent="submit">
      <h1>Granary</h1>
      <p class="soft intro">
        {{ first ? "Nobody has an account here yet. Create the technician's." : 'Images of every computer, proven, and back by lunch.' }}
      </p>
      <TextField v-model="name" label="Name" autofocus fluid autocomplete="username" required maxlength="60" />
      <TextField
        v-model="password"
        label="Password"
        :hint="first ? 'At least 10 characters; a few words will do.' : ''"
        type="password"
        fluid
        :autocomplete="first ? 'new-password' : 'current-password'"
        required
      />
      <template v-if="first">
        <TextField v-model="again" label="Password again" type="password" fluid autocomplete="new-password" required />
        <TextField
          v-if="!printed"
          v-model="word"
          label="Word"
          fluid
          autocomplete="off"
          required
          maxlength="100"
          hint="It stands at the end of the address that Granary printed when it was started."
        />
      </template>
      <p v-if="refused" class="notice" role="alert">{{ refused }}</p>
      <Button type="submit" :label="first ? 'Create the account' : 'Sign in'" :loading="busy" />
      <p v-if="session?.hint" class="soft small hint">{{ session.hint }}</p>
    </form>
  </div>
</template>

<style scoped>
.page { min-height: 100vh; display: grid; place-items: center; background: var(--paper); }
form { width: 360px; display: flex; flex-direction: column; gap: 6px; padding-bottom: 12vh; }
h1 { font-size: 40px; }
.intro { margin-bottom: 18px; }
.notice { margin: 10px 0 0; }
.p-button { align-self: flex-start; margin-top: 14px; }
.hint { margin-top: 16px; border-top: 1px solid var(--rule); padding-top: 12px; }
</style>
