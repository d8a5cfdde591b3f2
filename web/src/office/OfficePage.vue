<script setup lang="ts">
import Button from 'primevue/button'
import { ref, watch } from 'vue'
import { client, sentenceOf } from '../api/client'
import type { OfficeDays } from '../api/types'
import { useAction } from '../api/useAction'
import PageHeading from '../frame/PageHeading.vue'
import FieldFrame from '../field/FieldFrame.vue'
import SelectField from '../field/SelectField.vue'
import NumberField from '../field/NumberField.vue'
import DateField from '../field/DateField.vue'
import TextField from '../field/TextField.vue'
import CheckField from '../field/CheckField.vue'
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
        <FieldFrame id="opens" label="Opens"><ClockField id="opens" v-model="form.opens" label="Opens" /></FieldFrame>
        <FieldFrame id="closes" label="Closes"><ClockField id="closes" v-model="form.closes" label="Closes" /></FieldFrame>
        <SelectField
          v-model="form.zone"
          label="Time zone"
          class="zone"
          filter
          :options="(query.data.value?.zones ?? []).map((z) => ({ key: z, label: z }))"
        />
        <NumberField v-model="form.bootMinutes" label="Booting one computer takes" unit="minutes of a person" min="1" max="120" />
        <NumberField v-model="form.leadMinutes" label="It is handed over, at most" unit="minutes before its window" min="0" max="600" />
      </div>
      <h2 class="section">Open on</h2>
      <p class="days">
        <label v-for="d in WEEKDAYS" :key="d.key"
          ><input type="checkbox" :checked="form.workingDays.includes(d.key)" @change="toggle(d.key)" /> {{ d.key }}</label
        >
      </p>
      <h2 class="section">Closed all the same</h2>
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
      <div class="add">
        <DateField v-model="newDay" label="Closed on" />
        <TextField v-model="newNote" label="What is on" maxlength="40" placeholder="stocktaking" @keydown.enter.prevent="addDay" />
        <Button type="button" label="Add the day" size="small" severity="secondary" outlined :disabled="!newDay" @click="addDay" />
      </div>
      <h2 class="section">Encryption</h2>
      <CheckField
        v-model="form.encryptLeaving"
        label="Images on drives that leave the building must be encrypted"
      />
    </fieldset>
  </form>
</template>

<style scoped>
fieldset { border: 0; padding: 0; margin: 0; max-width: 860px; }
.hours { display: flex; gap: 26px; flex-wrap: wrap; margin-bottom: 16px; }
.zone { min-width: 190px; }
.days label { text-transform: capitalize; }
.days { display: flex; gap: 18px; margin-bottom: 16px; }
.add { display: flex; gap: 10px; align-items: end; margin: 8px 0 18px; }
table { max-width: 560px; }
input[type='checkbox'] { accent-color: var(--grain); }
</style>
