<script setup lang="ts">
import { useRouter } from 'vue-router'
import { tellAtFields } from '../field/refusedField'
import { answer, client } from '../api/client'
import type { ComputerForm } from '../api/types'
import { useAction } from '../api/useAction'
import PageHeading from '../frame/PageHeading.vue'
import ComputerFields from './ComputerFields.vue'
import { useChanged } from '../query/ask'

const router = useRouter()
const changed = useChanged()
const EMPTY: ComputerForm = {
  name: '',
  role: '',
  owner: '',
  maker: '',
  model: '',
  firmware: 'unknown',
  bootKey: '',
  secureBoot: null,
  operatingSystem: '',
  encryption: 'unknown',
  keyPlace: 'unknown',
  keyNote: '',
  note: '',
  checks: '',
}
const {
  act: add,
  busy,
  refusal,
} = useAction(async (form: ComputerForm) => {
  const added = await answer(client.POST('/api/v1/computers', { body: form }))
  await changed('computers')
  await router.push(`/computers/${added.line.id}`)
})
const refused = tellAtFields(refusal)
</script>

<template>
  <PageHeading title="Add a computer"
    >Only the name is needed. Its disks come with a report: <RouterLink to="/import">import one</RouterLink> that a script prints on
    it.</PageHeading
  >
  <p v-if="refused" class="notice" role="alert">{{ refused }}</p>
  <ComputerFields :form="EMPTY" suggested-key="" :busy="busy" action="Add this computer" @save="add" @leave="router.push('/computers')" />
</template>
