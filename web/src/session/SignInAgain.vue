<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { ref, watch } from 'vue'
import TextField from '../field/TextField.vue'
import { Refusal } from '../api/client'
import { useAction } from '../api/useAction'
import { useSession } from './useSession'

/** Asks for the sign-in that has ended, over the page: what was typed there stays. Another account begins with a page of its own. */
const { ended, signIn, lastName } = useSession()
const cache = useQueryClient()
const name = ref('')
const password = ref('')
watch(ended, (now) => now && ((name.value = lastName.value), (password.value = '')))
const {
  act: submit,
  busy,
  refused,
} = useAction(async () => {
  const before = lastName.value
  const session = await signIn(name.value.trim(), password.value)
  if (!session.name) throw new Refusal('sign-in-failed', 'That did not sign you in. Try again.', 'password', 0)
  if (session.name !== before) globalThis.location.reload()
  await cache.invalidateQueries()
})
</script>

<template>
  <Dialog :visible="ended" modal :closable="false" :draggable="false" header="Your sign-in has ended" class="again">
    <form @submit.prevent="submit">
      <p class="soft small">Nothing on the page is lost. Sign in, then do what you were about to once more.</p>
      <TextField v-model="name" label="Name" fluid autocomplete="username" required maxlength="60" />
      <TextField v-model="password" label="Password" type="password" autofocus fluid autocomplete="current-password" required />
      <p v-if="refused" class="notice" role="alert">{{ refused }}</p>
      <Button type="submit" label="Sign in" :loading="busy" />
    </form>
  </Dialog>
</template>

<style scoped>
form { display: grid; gap: 6px; width: 320px; }
form .p-button { margin-top: 10px; justify-self: start; }
p { margin: 0 0 6px; }
</style>
