<script setup lang="ts">
import { ref } from 'vue'
import type { PlanForm } from '../api/types'
import { AFTERWARDS } from '../computer/afterwards'
import AreaField from '../field/AreaField.vue'
import ChoiceField from '../field/ChoiceField.vue'
import NumberField from '../field/NumberField.vue'
import TextField from '../field/TextField.vue'
import { toAddresses } from '../mail/addresses'
import { toLines } from './planWords'

/** Who does what before and after an image of the plan is made. Changes the form it is given. */
const props = defineProps<{ form: PlanForm }>()
const mail = ref(props.form.mailTo.join(', '))
const checklist = ref(props.form.checklist.join('\n'))
const BOOTED = [
  { key: true, label: 'rescue media, by a person' },
  { key: false, label: 'where it runs' },
]
</script>

<template>
  <div class="handling">
    <ChoiceField v-model="form.booted" label="Started from" :options="BOOTED" />
    <ChoiceField v-model="form.afterwards" label="Then" :options="AFTERWARDS" />
    <NumberField
      v-model="form.recheckDays"
      name="recheckDays"
      label="Every frame is read back, and again after"
      unit="days"
      min="1"
      max="3650"
    />
    <TextField
      v-model="mail"
      name="mailTo"
      label="Mail to"
      hint="several with commas between; empty for nobody"
      @change="form.mailTo = toAddresses(mail)"
    />
    <AreaField
      v-model="checklist"
      name="checklist"
      label="Before the night"
      hint="one thing a line"
      rows="4"
      @change="form.checklist = toLines(checklist)"
    />
    <TextField v-model="form.note" name="note" label="Note" maxlength="2000" />
  </div>
</template>

<style scoped>
.handling { display: grid; grid-template-columns: repeat(auto-fit, minmax(250px, 1fr)); gap: 10px 24px; align-items: start; }
</style>
