<script setup lang="ts">
import type { OfficeChoices } from '../api/types'
import CheckField from '../field/CheckField.vue'
import NumberField from '../field/NumberField.vue'
import TextField from '../field/TextField.vue'
import FolderExample from '../folder/FolderExample.vue'

/** Where images lie and which are kept, for plans without a choice of their own. */
defineProps<{ policy: string }>()
const form = defineModel<OfficeChoices['form']>({ required: true })
const encryptLeaving = defineModel<boolean>('encryptLeaving', { required: true })
const COUNTS = [
  { key: 'last', label: 'Newest images kept' },
  { key: 'daily', label: 'One a day, for days' },
  { key: 'weekly', label: 'One a week, for weeks' },
  { key: 'monthly', label: 'One a month, for months' },
  { key: 'yearly', label: 'One a year, for years' },
] as const
</script>

<template>
  <section>
    <h2 class="section">Images, unless a plan says otherwise</h2>
    <TextField
      v-model.lazy="form.folder"
      name="folder"
      label="Stored in the folder"
      hint="empty for Granary’s own; {computer}, {maker}, {model}, {system}, {disk} and {year}, with / between folders"
      maxlength="100"
      spellcheck="false"
    />
    <FolderExample :pattern="form.folder" />
    <CheckField v-model="encryptLeaving" label="Images on drives that leave the building must be encrypted" class="leaving" />
    <div class="line">
      <NumberField v-for="c in COUNTS" :key="c.key" v-model="form[c.key]" :name="c.key" :label="c.label" min="0" max="999" />
    </div>
    <div class="line">
      <NumberField v-model="form.minimumDays" name="minimumDays" label="Keep everything younger than" unit="days" min="0" max="9999" />
      <NumberField
        v-model="form.maximumDays"
        name="maximumDays"
        label="Release everything older than"
        unit="days (0: no limit)"
        min="0"
        max="9999"
      />
      <NumberField v-model="form.leastProven" name="leastProven" label="Always keep this many proven images" min="1" max="999" />
    </div>
    <p class="small soft">{{ policy }} <RouterLink to="/retention">See what that keeps, and try others</RouterLink>.</p>
    <div class="line">
      <NumberField
        v-model="form.trashDays"
        name="trashDays"
        label="Released images stay in the trash of their drive for"
        unit="days, or until room is needed"
        min="0"
        max="365"
      />
    </div>
  </section>
</template>

<style scoped>
.leaving { margin: 10px 0 14px; }
</style>
