<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import type { OfficeDays } from '../api/types'
import ClockField from '../field/ClockField.vue'
import DateField from '../field/DateField.vue'
import NumberField from '../field/NumberField.vue'
import SelectField from '../field/SelectField.vue'
import TextField from '../field/TextField.vue'
import { formatDay } from '../measure/times'
import { WEEKDAYS } from '../plan/planWords'

/** When a person is there to boot computers, and on which days nobody is. */
defineProps<{ zones: readonly string[] }>()
const form = defineModel<OfficeDays['form']>({ required: true })
const newDay = ref('')
const newNote = ref('')
const noted = computed(() => form.value.closedDays.some((d) => d.day === newDay.value))

function toggle(day: string) {
  const open = form.value.workingDays
  form.value.workingDays = WEEKDAYS.map((d) => d.key as string).filter((key) => (key === day) !== open.includes(key))
}

function addDay() {
  if (!newDay.value || noted.value) return
  form.value.closedDays = [...form.value.closedDays, { day: newDay.value, note: newNote.value }].sort((a, b) => a.day.localeCompare(b.day))
  newDay.value = ''
  newNote.value = ''
}
</script>

<template>
  <section>
    <h2 class="section">Hours</h2>
    <p class="small soft">When a person is there to boot computers. Nights are planned by this clock.</p>
    <div class="line">
      <ClockField v-model="form.opens" name="opens" label="Opens" />
      <ClockField v-model="form.closes" name="closes" label="Closes" />
      <SelectField
        v-model="form.zone"
        name="zone"
        label="Time zone"
        class="zone"
        filter
        :options="zones.map((z) => ({ key: z, label: z }))"
      />
      <NumberField
        v-model="form.bootMinutes"
        name="bootMinutes"
        label="Booting one computer takes"
        unit="minutes of a person"
        min="1"
        max="120"
      />
      <NumberField
        v-model="form.leadMinutes"
        name="leadMinutes"
        label="A computer is handed over at most"
        unit="minutes before its window"
        min="0"
        max="600"
      />
    </div>
    <fieldset class="days">
      <legend class="small soft">Open on</legend>
      <label v-for="d in WEEKDAYS" :key="d.key"
        ><input type="checkbox" :checked="form.workingDays.includes(d.key)" @change="toggle(d.key)" /> {{ d.key }}</label
      >
    </fieldset>
    <table v-if="form.closedDays.length">
      <caption class="small soft">
        Closed all the same on
      </caption>
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
    <div class="line">
      <DateField
        v-model="newDay"
        name="closedDays"
        label="Closed on"
        hint="like 24 Dec 2026"
        :error="noted ? 'This day is noted already.' : ''"
      />
      <TextField v-model="newNote" label="Occasion" maxlength="40" @keydown.enter.prevent="addDay" />
      <Button
        type="button"
        label="Add the day"
        size="small"
        severity="secondary"
        outlined
        :disabled="!newDay || noted"
        @click="addDay"
      />
    </div>
  </section>
</template>

<style scoped>
.zone { min-width: 190px; }
.days { display: flex; gap: 18px; border: 0; padding: 0; margin: 0 0 12px; }
.days legend { padding: 0; float: left; margin-right: 18px; }
.days label { text-transform: capitalize; font-size: 13px; }
table { max-width: 560px; margin-bottom: 10px; }
caption { text-align: left; }
input[type='checkbox'] { accent-color: var(--grain); }
</style>
