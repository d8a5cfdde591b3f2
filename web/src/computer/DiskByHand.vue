<script setup lang="ts">
import Button from 'primevue/button'
import { computed, reactive } from 'vue'
import { tellAtFields } from '../field/refusedField'
import TextField from '../field/TextField.vue'
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
const {
  act: add,
  busy,
  refusal,
} = useAction(async () => {
  await client.POST('/api/v1/computers/{id}/disks', {
    params: { path: { id: props.computerId } },
    body: {
      name: form.name,
      model: form.model,
      serial: form.serial,
      sizeBytes: sizeBytes.value!,
      usedBytes: form.used ? usedBytes.value : null,
    },
  })
  emit('added')
})
const refused = tellAtFields(refusal)
</script>

<template>
  <form @submit.prevent="add" @keydown.esc.stop="emit('leave')">
    <h2 class="section">A disk, as its label says</h2>
    <p v-if="refused || complaint" class="notice" :role="refused ? 'alert' : 'status'">{{ refused || complaint }}</p>
    <div class="fields">
      <TextField label="Size" v-model="form.size" name="size" hint="like 500 GB" autofocus />
      <TextField label="Model" v-model="form.model" name="model" maxlength="300" />
      <TextField label="Serial" v-model="form.serial" name="serial" maxlength="300" hint="tells two alike apart" />
      <TextField label="Used, if known" v-model="form.used" name="used" hint="like 70 GB" />
      <TextField label="Name of the disk" v-model="form.name" name="name" maxlength="200" hint="like disk 2, data" />
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
.ends { display: flex; gap: 10px; }
</style>
