<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import SelectField from '../field/SelectField.vue'
import DateField from '../field/DateField.vue'
import { answer, client } from '../api/client'
import { useAction } from '../api/useAction'
import TextField from '../field/TextField.vue'
import { useChanged } from '../query/ask'
import { noonOf, today } from '../measure/days'

/** A file nobody can look into, taken on by its length and its digest alone, as of a disk that a person names. */
const props = defineProps<{ disks: { id: string; label: string }[]; destinationId: string; folder: string }>()
const changed = useChanged()
const name = ref('')
const diskId = ref('')
const day = ref(today())
const id = ref('')
const { act, busy, refused } = useAction(async () => {
  const added = await answer(
    client.POST('/api/v1/elsewhere/kept', {
      body: { destinationId: props.destinationId, folder: props.folder, name: name.value, diskId: diskId.value, madeAt: noonOf(day.value) },
    }),
  )
  id.value = added.id
  await client.POST('/api/v1/runs/checks', { body: { imageId: added.id, level: 'sound', passphrase: null } })
  void changed('images')
})
</script>

<template>
  <details class="kept">
    <summary>A file that Granary cannot look into</summary>
    <p class="small soft">
      It is kept as found: Granary checks its length and SHA-256 from now on, and says nothing about its contents. It covers no
      disk.
    </p>
    <p v-if="refused" class="notice" role="alert">{{ refused }}</p>
    <p v-if="id" role="status">On the shelf, and its digest is being taken. <RouterLink :to="`/images/${id}`">Open it</RouterLink></p>
    <form v-else class="line" @submit.prevent="act()">
      <TextField v-model="name" label="File in that folder" maxlength="255" spellcheck="false" />
      <SelectField
        v-model="diskId"
        label="It is of"
        :options="disks.map((d) => ({ key: d.id, label: d.label }))"
        placeholder="choose the disk"
        filter
        aria-label="The file is of"
      />
      <DateField v-model="day" label="As it was on" :max="today()" />
      <Button type="submit" label="Keep it as found" size="small" :disabled="!name.trim() || !diskId || !day" :loading="busy" />
    </form>
  </details>
</template>

<style scoped>
.kept { margin: 14px 0; }
.line { display: flex; gap: 14px; align-items: end; flex-wrap: wrap; }
label { display: flex; flex-direction: column; gap: 2px; font-size: 13px; color: var(--ink-soft); min-width: 180px; }
</style>
