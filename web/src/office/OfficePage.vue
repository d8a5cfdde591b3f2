<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { ref, watch } from 'vue'
import { client, sentenceOf } from '../api/client'
import type { OfficeDays } from '../api/types'
import { useAction } from '../api/useAction'
import PageHeading from '../frame/PageHeading.vue'
import ClockField from '../measure/ClockField.vue'
import { formatDay } from '../measure/times'
import { WEEKDAYS } from '../plan/planWords'
import { useSession } from '../session/useSession'
import { useOfficeDays } from '../query/office'

const { mayAct } = useSession()
const form = ref<OfficeDays['form'] | null>(null)
const newDay = ref('')
const newNote = ref('')
const saved = ref(false)
const query = useOfficeDays()
watch(
  () => query.data.value,
  (now) => now && (form.value = JSON.parse(JSON.stringify(now.form)) as OfficeDays['form']),
  { immediate: true },
)
watch(form, () => (saved.value = false), { deep: true })

const {
  act: save,
  busy,
  refused,
} = useAction(async () => {
  await client.PUT('/api/v1/office/days', { params: { header: { 'If-Match': `"${query.data.value!.version}"` } }, body: form.value! })
  await query.refetch()
  setTimeout(() => (saved.value = true))
})

function toggle(day: string) {
  form.value!.workingDays = WEEKDAYS.map((d) => d.key as string).filter((key) => (key === day) !== form.value!.workingDays.includes(key))
}

function addDay() {
  if (!newDay.value || form.value!.closedDays.some((d) => d.day === newDay.value)) return
  form.value!.closedDays = [...form.value!.closedDays, { day: newDay.value, note: newNote.value }].sort((a, b) =>
    a.day.localeCompare(b.day),
  )
  newDay.value = ''
  newNote.value = ''
}
</script>

<template>
  <PageHeading title="Office hours"
    >When a person is there to boot computers, and on which days nobody is. Nights are planned by this clock.
    <template #action><Button label="Save the hours" :disabled="!mayAct || !form" :loading="busy" @click="save" /></template>
  </PageHeading>
  <p v-if="query.error.value" class="notice" role="alert">{{ sentenceOf(query.error.value) }}</p>
  <p v-if="refused" class="notice" role="alert">{{ refused }}</p>
  <p v-if="saved" role="status" class="moss">Saved.</p>
  <form v-if="form" @submit.prevent="save">
    <fieldset :disabled="!mayAct">
      <div class="hours">
        <label>Opens<ClockField v-model="form.opens" label="Opens" /></label>
        <label>Closes<ClockField v-model="form.closes" label="Closes" /></label>
        <label
          >Time zone<Select
            v-model="form.zone"
            :options="query.data.value?.zones as string[]"
            filter
            size="small"
            class="zone"
            aria-label="Time zone"
        /></label>
        <label
          >Booting one computer takes<span
            ><input v-model.number="form.bootMinutes" type="number" min="1" max="120" /> minutes of a person</span
          ></label
        >
        <label
          >It is handed over<span
            ><input v-model.number="form.leadMinutes" type="number" min="0" max="600" /> minutes before its window, at most</span
          ></label
        >
      </div>
      <h3>Open on</h3>
      <p class="days">
        <label v-for="d in WEEKDAYS" :key="d.key"
          ><input type="checkbox" :checked="form.workingDays.includes(d.key)" @change="toggle(d.key)" /> {{ d.key }}</label
        >
      </p>
      <h3>Closed all the same</h3>
      <table v-if="form.closedDays.length">
        <tbody>
          <tr v-for="d in form.closedDays" :key="d.day">
            <td>{{ formatDay(d.day) }} {{ d.day.slice(0, 4) }}</td>
            <td>{{ d.note }}</td>
            <td>
              <button type="button" class="figure" @click="form.closedDays = form.closedDays.filter((other) => other !== d)">
                open after all
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-else class="soft small">No closing days are noted. An image that needs a person and is due on one moves to the next open day.</p>
      <p class="add">
        <input v-model="newDay" type="date" aria-label="Closed on" />
        <InputText
          v-model="newNote"
          size="small"
          maxlength="40"
          placeholder="stocktaking"
          aria-label="What is on"
          @keydown.enter.prevent="addDay"
        />
        <Button type="button" label="Add the day" size="small" severity="secondary" outlined :disabled="!newDay" @click="addDay" />
      </p>
      <h3>Encryption</h3>
      <label
        ><input v-model="form.encryptLeaving" type="checkbox" /> Images on drives that leave the building must be encrypted; a drive that
        does refuses others</label
      >
    </fieldset>
  </form>
</template>

<style scoped>
fieldset { border: 0; padding: 0; margin: 0; max-width: 860px; }
.hours { display: flex; gap: 26px; flex-wrap: wrap; margin-bottom: 16px; }
.hours label { display: flex; flex-direction: column; gap: 2px; font-size: 13px; color: var(--ink-soft); }
.zone { min-width: 190px; }
.days label { text-transform: capitalize; }
.days { display: flex; gap: 18px; margin-bottom: 16px; }
.add { display: flex; gap: 10px; align-items: center; margin: 8px 0 18px; }
table { max-width: 560px; }
input[type='number'],
input[type='date'] {
  font: inherit;
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
  padding: 4px 6px;
}
input[type='number'] { width: 58px; }
input[type='checkbox'] { accent-color: var(--grain); }
</style>
