<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, type Ref } from 'vue'
import AreaField from '../field/AreaField.vue'
import SelectField from '../field/SelectField.vue'
import TextField from '../field/TextField.vue'
import { useEdited } from '../field/useEdited'
import type { ComputerForm } from '../api/types'
import { useUnsaved } from '../frame/useUnsaved'
import { BOOT_KEYS, ENCRYPTIONS, FIRMWARES, KEY_PLACES } from './choices'

/** `version` of what is on record; none of a computer that is new. */
const props = defineProps<{ form: ComputerForm; version?: number; suggestedKey: string; busy: boolean; action: string }>()
/** `version` it was begun from. */
const emit = defineEmits<{ save: [form: ComputerForm, version: number]; leave: [] }>()
const edited = useEdited(
  (): { form: ComputerForm; version: number } => ({ form: props.form, version: props.version ?? 0 }),
  (known) => known.form,
)
const form = edited.form as Ref<ComputerForm>
const SECURE = [
  { key: null, label: 'not known' },
  { key: true, label: 'on' },
  { key: false, label: 'off' },
]
defineExpose({ goOn: edited.goOn })
const left = ref(false)
useUnsaved(() => edited.dirty.value && !props.busy && !left.value, 'the computer')
function leave() {
  left.value = true
  emit('leave')
}
const bootKeyHint = computed(() =>
  props.suggestedKey ? `makers of that name usually take ${props.suggestedKey}` : 'the key held at power-on, once tried',
)
const keyOnItself = computed(() => form.value.encryption === 'volumes' && form.value.keyPlace === 'same-computer')
</script>

<template>
  <form @submit.prevent="emit('save', form, edited.record.value!.version)" @keydown.esc.stop="leave()">
    <TextField label="Name" v-model="form.name" name="name" required maxlength="100" autofocus />
    <TextField label="Role" v-model="form.role" name="role" maxlength="200" hint="like front desk, file server" />
    <TextField label="Who depends on it" v-model="form.owner" name="owner" maxlength="200" />
    <TextField label="Maker" v-model="form.maker" name="maker" maxlength="300" />
    <TextField label="Model" v-model="form.model" name="model" maxlength="300" />
    <TextField label="System and build" v-model="form.operatingSystem" name="operatingSystem" maxlength="300" />
    <SelectField label="Firmware" v-model="form.firmware" name="firmware" :options="FIRMWARES" />
    <SelectField label="Secure boot" v-model="form.secureBoot" name="secureBoot" :options="SECURE" :disabled="form.firmware !== 'uefi'" />
    <TextField label="Boot-menu key" v-model="form.bootKey" name="bootKey" maxlength="100" list="boot-keys" :hint="bootKeyHint" />
    <datalist id="boot-keys"><option v-for="key in BOOT_KEYS" :key="key" :value="key" /></datalist>
    <SelectField label="Disk encryption" v-model="form.encryption" name="encryption" :options="ENCRYPTIONS" />
    <SelectField
      label="Its key is kept"
      v-model="form.keyPlace"
      name="keyPlace"
      :options="KEY_PLACES"
      :disabled="form.encryption !== 'volumes'"
    />
    <TextField
      label="More on that place"
      v-model="form.keyNote" name="keyNote"
      maxlength="300"
      :disabled="form.encryption !== 'volumes'"
      hint="like envelope 4; never the key itself"
    />
    <AreaField label="Note" class="wide" v-model="form.note" name="note" maxlength="2000" rows="2" />
    <AreaField
      label="Looked at when it is back: programs and folders that matter, a line each"
      class="wide"
      v-model="form.checks" name="checks"
      maxlength="2000"
      rows="3"
    />
    <p v-if="keyOnItself" class="brick wide small" role="status">
      A key kept on the computer it opens is lost with it. Keep a copy on paper or in the fire safe.
    </p>
    <div class="wide ends">
      <Button type="submit" :label="action" :loading="busy" :disabled="!form.name.trim()" />
      <Button type="button" :label="edited.dirty.value ? 'Leave it as it was' : 'Close'" severity="secondary" outlined @click="leave()" />
    </div>
  </form>
</template>

<style scoped>
form {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 10px 22px;
  align-items: start;
  margin-bottom: 20px;
  padding-bottom: 16px;
  border-bottom: 1px solid var(--rule);
}
.wide { grid-column: 1 / -1; }
.ends { display: flex; gap: 12px; }
</style>
