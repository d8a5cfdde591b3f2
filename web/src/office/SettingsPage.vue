<script setup lang="ts">
import Button from 'primevue/button'
import { ref, watch } from 'vue'
import FolderExample from '../folder/FolderExample.vue'
import SelectField from '../field/SelectField.vue'
import TextField from '../field/TextField.vue'
import { answer, client, sentenceOf } from '../api/client'
import type { OfficeChoices } from '../api/types'
import { useAction } from '../api/useAction'
import PageHeading from '../frame/PageHeading.vue'
import MailServerForm from '../mail/MailServerForm.vue'
import RehearsalSchedule from './RehearsalSchedule.vue'
import NumberField from '../field/NumberField.vue'
import { formatAge } from '../measure/times'
import { useNow } from '../measure/useNow'
import { useSession } from '../session/useSession'
import { useChanged } from '../query/ask'
import { useDestinations } from '../query/destinations'
import { useDatabase, useOfficeChoices } from '../query/office'

const { mayAct } = useSession()
const changed = useChanged()
const now = useNow(60_000)
const form = ref<OfficeChoices['form'] | null>(null)
const said = ref('')
const query = useOfficeChoices()
const destinations = useDestinations()
const database = useDatabase()
watch(
  () => query.data.value,
  (fresh) => fresh && (form.value = { ...fresh.form }),
  { immediate: true },
)
const UNITS = [
  { key: 'decimal', label: 'decimal, as on the label (GB)' },
  { key: 'binary', label: 'binary, as systems show them (GiB)' },
]
const COUNTS = [
  { key: 'last', name: 'last' },
  { key: 'daily', name: 'days' },
  { key: 'weekly', name: 'weeks' },
  { key: 'monthly', name: 'months' },
  { key: 'yearly', name: 'years' },
] as const

const {
  act: save,
  busy,
  refused,
} = useAction(async () => {
  said.value = ''
  await client.PUT('/api/v1/office/choices', { params: { header: { 'If-Match': `"${query.data.value!.version}"` } }, body: form.value! })
  await Promise.all([query.refetch(), changed('office', 'retention', 'outlook', 'folder-example')])
  said.value = 'Saved.'
})
const {
  act: copy,
  busy: copying,
  refused: notCopied,
} = useAction(async () => {
  said.value = (await answer(client.POST('/api/v1/database/copies'))).sentence
  await database.refetch()
})
</script>

<template>
  <PageHeading title="Settings"
    >What holds for the whole office. <RouterLink to="/office">Office hours</RouterLink> and
    <RouterLink to="/accounts">accounts</RouterLink> have their own pages; <RouterLink to="/first-day">the first day</RouterLink> leads a
    new office.
    <template #action><Button label="Save the settings" :disabled="!mayAct || !form" :loading="busy" @click="save" /></template>
  </PageHeading>
  <p
    v-for="why in [query.error.value && sentenceOf(query.error.value), refused, notCopied].filter(Boolean)"
    :key="String(why)"
    class="notice"
    role="alert"
  >
    {{ why }}
  </p>
  <p v-if="said" role="status" class="moss">{{ said }}</p>
  <form v-if="form" @submit.prevent="save">
    <fieldset :disabled="!mayAct">
      <h2 class="section">Office</h2>
      <div class="line">
        <TextField label="Name" v-model="form.name" maxlength="100" />
        <SelectField v-model="form.units" label="Sizes read" :options="UNITS" />
        <TextField label="Mail of every night to" v-model="form.mailTo" maxlength="200" placeholder="nobody" />
      </div>
      <h2 class="section">Where images are stored, unless a plan says otherwise</h2>
      <div class="line folder">
        <div>
          <TextField
            v-model.lazy="form.folder"
            label="Folder"
            hint="empty for Granary’s own; {computer}, {maker}, {model}, {system}, {disk} and {year}, with / between folders"
            maxlength="100"
            spellcheck="false"
          />
          <FolderExample :pattern="form.folder" />
        </div>
      </div>
      <h2 class="section">What is kept, unless a plan says otherwise</h2>
      <div class="line">
        <NumberField v-for="c in COUNTS" :key="c.key" v-model="form[c.key]" :label="`Kept: ${c.name}`" min="0" max="999" />
      </div>
      <div class="line">
        <NumberField v-model="form.minimumDays" label="Keep everything younger than" unit="days" min="0" max="9999" />
        <NumberField v-model="form.maximumDays" label="Release everything older than" unit="days (0: no limit)" min="0" max="9999" />
        <NumberField v-model="form.leastProven" label="Always keep this many proven images" min="1" max="999" />
      </div>
      <p class="small soft">{{ query.data.value?.policy }} <RouterLink to="/retention">See what that keeps, and try others</RouterLink>.</p>
      <div class="line">
        <NumberField
          v-model="form.trashDays"
          label="Released images stay in the trash of their drive for"
          unit="days, or until room is needed"
          min="0"
          max="365"
        />
      </div>
      <h2 class="section">Granary's own database</h2>
      <div class="line">
        <SelectField
          v-model="form.copiesTo"
          label="Copied every night to"
          :options="[
            { key: '', label: 'this computer only' },
            ...(destinations.data.value ?? []).map((d) => ({ key: d.id, label: d.name })),
          ]"
        />
        <Button type="button" label="Copy it now" size="small" severity="secondary" outlined :loading="copying" @click="copy" />
        <span class="soft small"
          >{{
            database.data.value?.newest ? `The newest copy is from ${formatAge(database.data.value.newest, now)}.` : 'There is no copy yet.'
          }}
          <code>./granary restore-database</code> brings one back.</span
        >
      </div>
    </fieldset>
  </form>
  <MailServerForm />
  <RehearsalSchedule />
</template>

<style scoped>
fieldset { border: 0; padding: 0; margin: 0; max-width: 940px; }
h2.section.section { margin: 20px 0 8px; }
.line { display: flex; gap: 20px; flex-wrap: wrap; align-items: end; margin-bottom: 8px; }
</style>
