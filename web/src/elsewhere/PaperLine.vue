<script setup lang="ts">
import Button from 'primevue/button'
import Select from 'primevue/select'
import { computed, reactive } from 'vue'
import { useRouter } from 'vue-router'
import TextField from '../field/TextField.vue'
import { answer, client } from '../api/client'
import { useAction } from '../api/useAction'
import { parseSize } from '../measure/sizes'
import { dayOf, noonOf } from './days'
import { useChanged } from '../query/ask'
import { officeDate } from '../measure/officeClock'

/** A line of a paper log: an image whose files Granary has not seen. */
defineProps<{ disks: { id: string; label: string }[] }>()
const router = useRouter()
const changed = useChanged()
const form = reactive({ diskId: '', name: '', where: '', day: '', size: '', note: '' })
const complaint = computed(() =>
  form.size && parseSize(form.size) === null ? 'Write the size with its unit, for example 8.4 GB, or leave the field empty.' : '',
)
const ready = computed(() => form.diskId && form.name.trim() && form.where.trim() && form.day && !complaint.value)
const {
  act: add,
  busy,
  refused,
} = useAction(async () => {
  const body = {
    diskId: form.diskId,
    name: form.name,
    where: form.where,
    madeAt: noonOf(form.day),
    storedBytes: parseSize(form.size) ?? 0,
    note: form.note,
  }
  const added = await answer(client.POST('/api/v1/elsewhere/paper', { body }))
  await changed('images')
  await router.push(`/images/${added.id}`)
})
</script>

<template>
  <form @submit.prevent="add">
    <h2 class="section">A line from a paper log</h2>
    <p class="soft small">
      For an image whose files are not at hand. It is listed as not seen, is never checked, and covers nothing until its files are
      added.
    </p>
    <p v-if="refused || complaint" class="notice" :role="refused ? 'alert' : 'status'">{{ refused || complaint }}</p>
    <div class="fields">
      <label
        >It is of<Select
          v-model="form.diskId"
          :options="disks"
          option-label="label"
          option-value="id"
          placeholder="choose the disk"
          size="small"
          filter
          aria-label="The line is of"
      /></label>
      <label
        >made on<input
          v-model="form.day"
          type="date"
          class="plain-field"
          :max="dayOf(officeDate().toISOString())"
          aria-label="The line was made on"
      /></label>
      <TextField label="called" v-model="form.name" maxlength="200" placeholder="what the log says" />
      <TextField label="lies" v-model="form.where" maxlength="200" placeholder="envelope 7, two DVDs" />
      <TextField label="size, if written" v-model="form.size" placeholder="8.4 GB" />
      <TextField label="note" v-model="form.note" maxlength="2000" />
    </div>
    <Button type="submit" label="Write it down" size="small" severity="secondary" outlined :disabled="!ready" :loading="busy" />
  </form>
</template>

<style scoped>
form { border-top: 1px solid var(--rule); margin-top: 26px; padding-top: 16px; }
h2.section.section { margin-bottom: 2px; }
.fields { display: grid; grid-template-columns: repeat(3, 1fr); gap: 10px 22px; align-items: end; margin: 12px 0; }
label { display: flex; flex-direction: column; gap: 2px; font-size: 13px; color: var(--ink-soft); }
</style>
