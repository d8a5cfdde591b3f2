<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { reactive, ref } from 'vue'
import { client } from '../api/client'
import type { DestinationLine } from '../api/types'
import { useAction } from '../api/useAction'

const props = defineProps<{ destination: DestinationLine }>()
const emit = defineEmits<{ saved: []; leave: [] }>()
const form = reactive({ ...props.destination.form })
const onlyFor = ref(props.destination.form.onlyFor.join(', '))
const version = props.destination.version
const PLACES = [{ key: 'here', label: 'here' }, { key: 'safe', label: 'in the fire safe' }, { key: 'off-site', label: 'off site' }, { key: 'unknown', label: 'place not known' }]
const { act: save, busy, refused } = useAction(async () => {
  await client.PUT('/api/v1/destinations/{id}', { params: { path: { id: props.destination.id }, header: { 'If-Match': `"${version}"` } }, body: { ...form, onlyFor: onlyFor.value.split(',').map((name) => name.trim()).filter((name) => name !== '') } })
  emit('saved')
})
</script>

<template>
  <form @submit.prevent="save" @keydown.esc.stop="emit('leave')">
    <p v-if="refused" class="notice wide" role="alert">{{ refused }}</p>
    <label>It lies<Select v-model="form.placeKind" aria-label="It lies" :options="PLACES" option-label="label" option-value="key" size="small" /></label>
    <label>Where exactly<InputText v-model="form.place" size="small" maxlength="200" placeholder="shelf 2, with Orla" /></label>
    <label>Swapped within<InputText v-model="form.rotation" size="small" maxlength="60" placeholder="weekly pair" /></label>
    <label>Taking it off<InputText v-model="form.ejectNote" size="small" maxlength="300" placeholder="write cache on: eject first" /></label>
    <label>Health<InputText v-model="form.healthNote" size="small" maxlength="300" placeholder="two bad sectors in March" /></label>
    <label>Link shared with others, by name<InputText v-model="form.sharedLink" size="small" maxlength="60" placeholder="none; or: network, hub" /></label>
    <label>Only for these computers<InputText v-model="onlyFor" size="small" maxlength="2000" placeholder="all; or: DATUM, LEDGER" /></label>
    <label class="leaves"><span><input v-model="form.leavesBuilding" type="checkbox" /> It is taken out of the building</span></label>
    <div class="ends">
      <Button type="submit" label="Save" size="small" :loading="busy" />
      <Button type="button" label="Leave it as it was" size="small" severity="secondary" outlined @click="emit('leave')" />
    </div>
  </form>
</template>

<style scoped>
form { display: grid; grid-template-columns: repeat(3, 1fr); gap: 10px 22px; margin-bottom: 14px; align-items: end; }
label { display: flex; flex-direction: column; gap: 2px; font-size: 13px; color: var(--ink-soft); }
.wide { grid-column: 1 / -1; }
.leaves input { accent-color: var(--grain); }
.ends { display: flex; gap: 10px; }
</style>
