<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { tellAtFields } from '../field/refusedField'
import { answer, client, Refusal, sentenceOf } from '../api/client'
import { useAction } from '../api/useAction'
import TextField from '../field/TextField.vue'
import { useSession } from '../session/useSession'
import { useInvitation } from '../query/accounts'

const token = String(useRoute().query.token ?? '')
const router = useRouter()
const { take } = useSession()
const password = ref('')
const again = ref('')
const invited = useInvitation(token)
const {
  act: accept,
  busy,
  refusal,
} = useAction(async () => {
  if (password.value !== again.value) throw new Refusal('bad-choice', 'The two passwords differ. Type the same one twice.', 'password', 0)
  take(await answer(client.POST('/api/v1/session/invitation', { body: { token, password: password.value } })))
  await router.push('/')
})
const refused = tellAtFields(refusal)
</script>

<template>
  <div class="page">
    <form @submit.prevent="accept">
      <h1>Granary</h1>
      <p v-if="invited.error.value" class="notice" role="alert">{{ sentenceOf(invited.error.value) }}</p>
      <template v-else-if="invited.data.value">
        <p class="soft">
          You are invited as {{ invited.data.value.name }}, who
          {{ invited.data.value.role === 'technician' ? 'does the work' : 'may look at everything' }}. Choose a password of at least 10
          characters; a few words will do.
        </p>
        <TextField v-model="password" label="Password" type="password" fluid autofocus autocomplete="new-password" />
        <TextField v-model="again" label="Password again" type="password" fluid autocomplete="new-password" />
        <p v-if="refused" class="notice" role="alert">{{ refused }}</p>
        <Button type="submit" label="Make the account" :loading="busy" :disabled="!password" />
      </template>
    </form>
  </div>
</template>

<style scoped>
.page { min-height: 100vh; display: grid; place-items: center; background: var(--paper); }
form { width: 360px; display: flex; flex-direction: column; gap: 10px; padding-bottom: 12vh; }
h1 { font-size: 40px; }
.p-button { align-self: flex-start; }
</style>
