<script setup lang="ts">
import Button from 'primevue/button'
import { ref, type Ref } from 'vue'
import { tellAtFields } from '../field/refusedField'
import CheckField from '../field/CheckField.vue'
import SelectField from '../field/SelectField.vue'
import TextField from '../field/TextField.vue'
import { client } from '../api/client'
import type { DestinationLine } from '../api/types'
import { useAction } from '../api/useAction'
import { useEdited } from '../field/useEdited'
import RefusedNotice from '../frame/RefusedNotice.vue'
import { useUnsaved } from '../frame/useUnsaved'

/** `again` asks anew for what is on record. */
const props = defineProps<{ destination: DestinationLine; again: () => Promise<DestinationLine | undefined> }>()
const emit = defineEmits<{ saved: []; leave: [] }>()
/** As it is typed: names with commas between. */
const asTyped = (known: DestinationLine) => ({ ...known.form, onlyFor: known.form.onlyFor.join(', ') })
const edited = useEdited(() => props.destination, asTyped)
const form = edited.form as Ref<ReturnType<typeof asTyped>>
/** Whether it was saved, or left as it was: then nothing is lost. */
const over = ref(false)
defineExpose({ mayLeave: useUnsaved(() => !over.value && edited.dirty.value, props.destination.name) })
function leave() {
  over.value = true
  emit('leave')
}
const PLACES = [
  { key: 'here', label: 'here' },
  { key: 'safe', label: 'in the fire safe' },
  { key: 'off-site', label: 'off site' },
  { key: 'unknown', label: 'place not known' },
]
const {
  act: save,
  whileBusy,
  busy,
  refusal,
  conflict,
} = useAction(async () => {
  await client.PUT('/api/v1/destinations/{id}', {
    params: { path: { id: props.destination.id }, header: { 'If-Match': `"${edited.record.value!.version}"` } },
    body: {
      ...form.value,
      onlyFor: form.value.onlyFor
        .split(',')
        .map((name) => name.trim())
        .filter((name) => name !== ''),
    },
  })
  over.value = true
  emit('saved')
})
const refused = tellAtFields(refusal)
const keepMine = () => whileBusy(async () => edited.goOn(await props.again()))
</script>

<template>
  <form @submit.prevent="save" @keydown.esc.stop="leave()">
    <RefusedNotice class="wide" :sentence="refused" :conflict="conflict" @keep="keepMine" />
    <SelectField label="It lies" v-model="form.placeKind" name="placeKind" :options="PLACES" />
    <TextField label="Where exactly" v-model="form.place" name="place" maxlength="200" hint="like shelf 2, with Orla" />
    <TextField label="Rotation" v-model="form.rotation" name="rotation" maxlength="60" hint="like weekly pair" />
    <TextField label="How to unplug it" v-model="form.ejectNote" name="ejectNote" maxlength="300" hint="like write cache on: eject first" />
    <TextField label="Health" v-model="form.healthNote" name="healthNote" maxlength="300" hint="like two bad sectors in March" />
    <TextField
      label="Link shared with others, by name"
      v-model="form.sharedLink"
      name="sharedLink"
      maxlength="60"
      hint="like hub; empty for none"
    />
    <TextField
      label="Only for these computers"
      v-model="form.onlyFor"
      name="onlyFor"
      maxlength="2000"
      hint="empty for all; names with commas between"
    />
    <CheckField v-model="form.leavesBuilding" label="It is taken out of the building" />
    <div class="ends">
      <Button type="submit" label="Save" size="small" :loading="busy" />
      <Button type="button" label="Leave it as it was" size="small" severity="secondary" outlined @click="leave()" />
    </div>
  </form>
</template>

<style scoped>
form { display: grid; grid-template-columns: repeat(3, 1fr); gap: 10px 22px; margin-bottom: 14px; align-items: start; }
.wide { grid-column: 1 / -1; }
.ends { display: flex; gap: 10px; }
</style>
