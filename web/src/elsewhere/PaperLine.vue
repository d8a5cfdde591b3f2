<script setup lang="ts">
import Button from 'primevue/button'
import { computed, reactive } from 'vue'
import { useRouter } from 'vue-router'
import { tellAtFields } from '../field/refusedField'
import SelectField from '../field/SelectField.vue'
import DateField from '../field/DateField.vue'
import TextField from '../field/TextField.vue'
import { answer, client } from '../api/client'
import { useAction } from '../api/useAction'
import { parseSize } from '../measure/sizes'
import { noonOf, today } from '../measure/days'
import { useChanged } from '../query/ask'

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
  refusal,
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
const refused = tellAtFields(refusal)
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
      <SelectField
        v-model="form.diskId" name="diskId"
        label="It is of"
        :options="disks.map((d) => ({ key: d.id, label: d.label }))"
        placeholder="choose the disk"
        filter
        aria-label="The line is of"
      />
      <DateField v-model="form.day" name="madeAt" label="Made on" :max="today()" aria-label="The line was made on" />
      <TextField label="Name in the log" v-model="form.name" name="name" maxlength="200" hint="what the log says" />
      <TextField label="Lies in" v-model="form.where" name="where" maxlength="200" hint="like envelope 7, two DVDs" />
      <TextField label="Size, if written" v-model="form.size" name="storedBytes" hint="like 8.4 GB" />
      <TextField label="Note" v-model="form.note" name="note" maxlength="2000" />
    </div>
    <Button type="submit" label="Record it" size="small" severity="secondary" outlined :disabled="!ready" :loading="busy" />
  </form>
</template>

<style scoped>
form { border-top: 1px solid var(--rule); margin-top: 26px; padding-top: 16px; }
h2.section.section { margin-bottom: 2px; }
.fields { display: grid; grid-template-columns: repeat(3, 1fr); gap: 10px 22px; align-items: start; margin: 12px 0; }
</style>
