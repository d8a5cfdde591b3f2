<script setup lang="ts">
import type { OfficeChoices } from '../api/types'
import CheckField from '../field/CheckField.vue'
import NumberField from '../field/NumberField.vue'
import FolderField from '../folder/FolderField.vue'
import KeepNumbers from '../retention/KeepNumbers.vue'

/** Where images lie and which are kept, for plans without a choice of their own. */
defineProps<{ policy: string }>()
const form = defineModel<OfficeChoices['form']>({ required: true })
const encryptLeaving = defineModel<boolean>('encryptLeaving', { required: true })
</script>

<template>
  <section>
    <h2 class="section">Images, unless a plan says otherwise</h2>
    <FolderField
      v-model="form.folder"
      label="Stored in the folder"
      hint="empty for Granary’s own; {computer}, {maker}, {model}, {system}, {disk} and {year}, with / between folders"
    />
    <CheckField v-model="encryptLeaving" label="Images on drives that leave the building must be encrypted" class="leaving" />
    <KeepNumbers :keep="form" of="" />
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
