<script setup lang="ts">
import type { OfficeChoices } from '../api/types'
import SelectField from '../field/SelectField.vue'
import TextField from '../field/TextField.vue'

/** What the office is called, how it reads sizes, and who is told of its nights. */
const form = defineModel<OfficeChoices['form']>({ required: true })
const UNITS = [
  { key: 'decimal', label: 'decimal, as on the label (GB)' },
  { key: 'binary', label: 'binary, as systems show them (GiB)' },
]
</script>

<template>
  <section>
    <h2 class="section">Office</h2>
    <div class="line">
      <TextField v-model="form.name" name="name" label="Name" maxlength="100" />
      <SelectField v-model="form.units" name="units" label="Sizes read" :options="UNITS" />
      <TextField v-model="form.mailTo" name="mailTo" label="Mail of every night to" hint="empty for nobody" maxlength="200" />
    </div>
  </section>
</template>
