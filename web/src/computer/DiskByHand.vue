<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, reactive } from 'vue'
import { client } from '../api/client'
import { useAction } from '../api/useAction'
import { parseSize } from '../measure/sizes'

const props = defineProps<{ computerId: string }>()
const emit = defineEmits<{ added: []; leave: [] }>()
const form = reactive({ name: '', model: '', serial: '', size: '', used: '' })
const sizeBytes = computed(() => parseSize(form.size))
const usedBytes = computed(() => parseSize(form.used))
const complaint = computed(() => {
  if (form.size && sizeBytes.value === null) return 'Write the size as on the label, for example 500 GB or 1 TB.'
  if (form.used && usedBytes.value === null) return 'Write the used bytes with their unit, for example 70 GB, or leave the field empty.'
  return ''
})
const { act: add, busy, refused } = useAction(async () => {
  await client.POST('/api/v1/computers/{id}/disks', {
    params: { path: { id: props.computerId } },
    body: { name: form.name, model: form.model, serial: form.serial, sizeBytes: sizeBytes.value!, usedBytes: form.used ? usedBytes.value : null },
  })
  emit('added')
})
</script>

<template>
  <form @submit.prevent="add" @keydown.esc.stop="emit('leave')">
    <h3>A disk, as its label says</h3>
    <p v-if="refused || complaint" class="notice" :role="refused ? 'alert' : 'status'">{{ refused || complaint }}</p>
    <div class="fields">
      <label>Size<InputText v-model="form.size" size="small" placeholder="500 GB" autofocus /></label>
      <label>Model<InputText v-model="form.model" size="small" maxlength="300" /></label>
      <label>Serial<InputText v-model="form.serial" size="small" maxlength="300" placeholder="tells two alike apart" /></label>
      <label>Used, if known<InputText v-model="form.used" size="small" placeholder="70 GB" /></label>
      <label>Called<InputText v-model="form.name" size="small" maxlength="200" placeholder="disk 2, data" /></label>
      <div class="ends">
        <Button type="submit" label="Add this disk" size="small" :loading="busy" :disabled="sizeBytes === null || !!complaint" />
        <Button type="button" label="Close" size="small" severity="secondary" outlined @click="emit('leave')" />
      </div>
    </div>
  </form>
</template>

<style scoped>
form { border-top: 1px solid var(--rule); padding: 12px 0; }
.fields { display: grid; grid-template-columns: repeat(3, 1fr); gap: 10px 22px; align-items: end; }
label { display: flex; flex-direction: column; gap: 2px; font-size: 13px; color: var(--ink-soft); }
.ends { display: flex; gap: 10px; }
</style>
