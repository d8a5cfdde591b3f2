<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import { client } from '../api/client'
import type { ComputerDetail } from '../api/types'
import { useAction } from '../api/useAction'
import DateField from '../field/DateField.vue'
import TextField from '../field/TextField.vue'
import { formatDay } from '../measure/times'
import { today } from '../measure/days'

/** When its files were last saved by other means, noted by hand: an image is no substitute. */
const props = defineProps<{ detail: ComputerDetail; mayAct: boolean }>()
const emit = defineEmits<{ saved: [] }>()
const noting = ref(false)
const on = ref(today())
const how = ref(props.detail.filesNote)
const { act: note, refused } = useAction(async () => {
  await client.PUT('/api/v1/computers/{id}/files-saved', {
    params: { path: { id: props.detail.line.id } },
    body: { on: on.value || null, how: how.value },
  })
  emit('saved')
})
</script>

<template>
  <p class="small files">
    <span class="soft">Last file backup:</span>
    {{
      detail.filesSavedOn
        ? `${formatDay(detail.filesSavedOn)} ${detail.filesSavedOn.slice(0, 4)}${detail.filesNote ? `, ${detail.filesNote}` : ''}`
        : 'not recorded'
    }}
    <button v-if="mayAct && !noting" type="button" class="figure" @click="noting = true">record one</button>
  </p>
  <form v-if="noting" class="files" @submit.prevent="note">
    <DateField v-model="on" label="Files were saved on" />
    <TextField v-model="how" label="How they were saved" maxlength="300" hint="where to" />
    <Button type="submit" label="Record it" size="small" severity="secondary" outlined />
    <span v-if="refused" class="brick" role="alert">{{ refused }}</span>
  </form>
</template>

<style scoped>
.files { margin: -6px 0 14px; }
form.files { display: flex; gap: 10px; align-items: end; }
</style>
