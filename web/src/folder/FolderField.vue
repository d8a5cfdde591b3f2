<script setup lang="ts">
import TextField from '../field/TextField.vue'
import FolderExample from './FolderExample.vue'

/** In which folder of its drive an image lies: a pattern, read back with where that would be now. */
defineProps<{ label: string; diskId?: string; where?: string; hint?: string }>()
const pattern = defineModel<string>({ required: true })
</script>

<template>
  <div>
    <TextField v-model="pattern" name="folder" :label="label" :hint="hint" fluid maxlength="100" spellcheck="false" />
    <FolderExample :pattern="pattern" :disk-id="diskId" :where="where" />
  </div>
</template>
