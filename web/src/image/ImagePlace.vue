<script setup lang="ts">
import Button from 'primevue/button'
import { ref, watch } from 'vue'
import { client } from '../api/client'
import type { ImageDetail } from '../api/types'
import { useAction } from '../api/useAction'
import TextField from '../field/TextField.vue'
import { useChanged } from '../query/ask'

/** Where it lies on its drive, and what it is called there. */
const props = defineProps<{ detail: ImageDetail }>()
const emit = defineEmits<{ moved: [] }>()
const changed = useChanged()
const folder = ref('')
const name = ref('')
const said = ref('')
watch(
  () => props.detail,
  (now) => {
    folder.value = now.image.location
    name.value = now.image.name
  },
  { immediate: true },
)
const { act, busy, refused } = useAction(async () => {
  said.value = ''
  await client.PUT('/api/v1/images/{id}/place', {
    params: { path: { id: props.detail.image.id } },
    body: { folder: folder.value, name: name.value },
  })
  said.value = 'It lies there now.'
  await changed('images')
  emit('moved')
})
</script>

<template>
  <details class="place">
    <summary>Move it on {{ detail.image.destination }}, or give it another name</summary>
    <p v-if="refused" class="notice" role="alert">{{ refused }}</p>
    <form @submit.prevent="act()">
      <TextField v-model="folder" label="Folder on that drive" hint="empty for Granary’s own" maxlength="200" spellcheck="false" />
      <TextField v-model="name" label="Name of the image" maxlength="100" spellcheck="false" />
      <Button
        type="submit"
        label="Move it"
        size="small"
        severity="secondary"
        outlined
        :loading="busy"
        :disabled="!name.trim() || (folder === detail.image.location && name === detail.image.name)"
      />
    </form>
    <p v-if="said" role="status" class="small">{{ said }}</p>
  </details>
</template>

<style scoped>
.place { margin-top: 12px; }
form { display: flex; gap: 10px; align-items: flex-start; flex-wrap: wrap; margin-top: 6px; }
form .p-button { margin-top: 22px; }
</style>
