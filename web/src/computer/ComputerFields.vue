<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import Textarea from 'primevue/textarea'
import { computed, reactive } from 'vue'
import type { ComputerForm } from '../api/types'
import { BOOT_KEYS, ENCRYPTIONS, FIRMWARES, KEY_PLACES } from './choices'

const props = defineProps<{ form: ComputerForm; suggestedKey: string; busy: boolean; action: string }>()
const emit = defineEmits<{ save: [form: ComputerForm]; leave: [] }>()
const form = reactive({ ...props.form })
const SECURE = [{ key: null, label: 'not known' }, { key: true, label: 'on' }, { key: false, label: 'off' }]
const changed = computed(() => JSON.stringify(form) !== JSON.stringify(props.form))
const bootKeyHint = computed(() => (props.suggestedKey ? `makers of that name usually take ${props.suggestedKey}` : 'the key held at power-on, once tried'))
const keyOnItself = computed(() => form.encryption === 'volumes' && form.keyPlace === 'same-computer')
</script>

<template>
  <form @submit.prevent="emit('save', { ...form })" @keydown.esc.stop="emit('leave')">
    <label>Name<InputText v-model="form.name" required maxlength="100" size="small" autofocus /></label>
    <label>Role<InputText v-model="form.role" maxlength="200" size="small" placeholder="front desk, file server" /></label>
    <label>Who depends on it<InputText v-model="form.owner" maxlength="200" size="small" /></label>
    <label>Maker<InputText v-model="form.maker" maxlength="300" size="small" /></label>
    <label>Model<InputText v-model="form.model" maxlength="300" size="small" /></label>
    <label>System and build<InputText v-model="form.operatingSystem" maxlength="300" size="small" /></label>
    <label>Firmware<Select aria-label="Firmware" v-model="form.firmware" :options="FIRMWARES" option-label="label" option-value="key" size="small" /></label>
    <label>Secure boot<Select aria-label="Secure boot" v-model="form.secureBoot" :options="SECURE" option-label="label" option-value="key" size="small" :disabled="form.firmware !== 'uefi'" /></label>
    <label>Boot-menu key<InputText v-model="form.bootKey" maxlength="100" size="small" list="boot-keys" :placeholder="bootKeyHint" /></label>
    <datalist id="boot-keys"><option v-for="key in BOOT_KEYS" :key="key" :value="key" /></datalist>
    <label>Disk encryption<Select aria-label="Disk encryption" v-model="form.encryption" :options="ENCRYPTIONS" option-label="label" option-value="key" size="small" /></label>
    <label>Its key is kept<Select aria-label="Its key is kept" v-model="form.keyPlace" :options="KEY_PLACES" option-label="label" option-value="key" size="small" :disabled="form.encryption !== 'volumes'" /></label>
    <label>More on that place<InputText v-model="form.keyNote" maxlength="300" size="small" :disabled="form.encryption !== 'volumes'" placeholder="envelope 4; never the key itself" /></label>
    <label class="wide">Note<Textarea v-model="form.note" maxlength="2000" rows="2" auto-resize /></label>
    <p v-if="keyOnItself" class="brick wide small" role="status">A key kept on the computer it opens is lost with it. Keep a copy on paper or in the fire safe.</p>
    <div class="wide ends">
      <Button type="submit" :label="action" :loading="busy" :disabled="!form.name.trim()" />
      <Button type="button" :label="changed ? 'Leave it as it was' : 'Close'" severity="secondary" outlined @click="emit('leave')" />
    </div>
  </form>
</template>

<style scoped>
form { display: grid; grid-template-columns: repeat(3, 1fr); gap: 10px 22px; margin-bottom: 20px; padding-bottom: 16px; border-bottom: 1px solid var(--rule); }
label { display: flex; flex-direction: column; gap: 2px; font-size: 13px; color: var(--ink-soft); }
.wide { grid-column: 1 / -1; }
.ends { display: flex; gap: 12px; }
</style>
