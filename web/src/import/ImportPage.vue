<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { answer, client } from '../api/client'
import type { ImportReview } from '../api/types'
import { useAction } from '../api/useAction'
import { useComputers } from '../computer/useComputers'
import AreaField from '../field/AreaField.vue'
import SelectField from '../field/SelectField.vue'
import TextField from '../field/TextField.vue'
import PageHeading from '../frame/PageHeading.vue'
import { useSession } from '../session/useSession'
import ReviewTable from './ReviewTable.vue'
import { counted } from '../measure/counted'
import { useChanged } from '../query/ask'

const router = useRouter()
const changed = useChanged()
const { mayAct } = useSession()
const { computers } = useComputers()
const text = ref('')
const fileName = ref('')
const computer = ref('')
const diskId = ref('')
const review = ref<ImportReview | null>(null)
const disks = computed(() => [
  { key: '', label: 'of no disk yet' },
  ...computers.value.flatMap((c) => c.disks.map((d) => ({ key: d.id, label: `${c.name}, ${d.name} (${d.serial || 'no serial'})` }))),
])
const isTable = computed(() => text.value.includes('"partitiontable"'))
const needsName = computed(() => text.value.includes('"blockdevices"'))
watch([text, computer, diskId], () => (review.value = null))

async function take(file: File | undefined) {
  if (!file) return
  fileName.value = file.name
  text.value = await file.text()
  if (needsName.value && !computer.value) computer.value = file.name.replace(/\.[^.]*$/, '')
}

/** The report goes as it is; only its text counts. */
const asText = { bodySerializer: () => text.value, headers: { 'Content-Type': 'text/plain;charset=UTF-8' } }
const {
  act: look,
  busy: looking,
  refused,
} = useAction(async () => {
  review.value = null
  review.value = await answer(
    client.POST('/api/v1/imports/review', {
      params: { query: { computer: computer.value, diskId: diskId.value } },
      body: text.value as never,
      ...asText,
    }),
  )
})
const {
  act: accept,
  busy: accepting,
  refused: notAccepted,
} = useAction(async () => {
  await client.POST('/api/v1/imports/accept', {
    params: { query: { computer: computer.value, diskId: diskId.value, basis: review.value!.basis } },
    body: text.value as never,
    ...asText,
  })
  await changed('computers')
  await router.push('/computers')
})
const summary = computed(() => {
  const r = review.value
  if (!r) return 'A report is shown as changes first; nothing is taken over before you accept it.'
  const grave = r.changes.filter((c) => c.grave).length
  const what = `${counted(r.computers, 'computer')} and ${counted(r.disks, 'disk')} reported`
  if (!r.changes.length) return `${what}. Nothing is different from what is known.`
  return `${what}. ${counted(r.changes.length, 'change')}${grave ? `, ${grave} to look at twice` : ''}.`
})
</script>

<template>
  <PageHeading title="Import a report"
    >{{ summary }}
    <template #action>
      <Button v-if="review" label="Accept these changes" :disabled="!mayAct || !review.acceptable" :loading="accepting" @click="accept" />
      <Button v-else label="Show what would change" :disabled="!mayAct || !text.trim()" :loading="looking" @click="look" />
    </template>
  </PageHeading>
  <p v-if="refused || notAccepted" class="notice" role="alert">{{ refused || notAccepted }}</p>
  <ReviewTable v-if="review" :review="review" />
  <div class="columns" :class="{ reviewed: review }">
    <section>
      <div class="line">
        <label class="file p-button p-component p-button-outlined p-button-secondary"
          >{{ fileName || 'Choose a file'
          }}<input type="file" accept=".json,.csv,.txt" @change="take(($event.target as HTMLInputElement).files?.[0])"
        /></label>
        <span class="soft">or paste the report below</span>
      </div>
      <AreaField v-model="text" fluid rows="11" spellcheck="false" class="text" label="The report" />
      <div v-if="needsName" class="line">
        <TextField v-model="computer" name="computer" label="Which computer is it of?" hint="lsblk does not say" maxlength="100" />
      </div>
      <div v-if="isTable" class="line">
        <SelectField v-model="diskId" name="diskId" label="Which disk is it of?" :options="disks" filter />
      </div>
    </section>
    <section>
      <h2 class="section">Where reports come from</h2>
      <p>Run one of these on the computer itself. They only read, and need nothing installed.</p>
      <ul>
        <li>
          <a href="/api/v1/imports/downloads/granary-inventory.sh" download>granary-inventory.sh</a>, for Linux:
          <code>sudo sh granary-inventory.sh &gt; NAME.json</code>
        </li>
        <li>
          <a href="/api/v1/imports/downloads/granary-inventory.ps1" download>granary-inventory.ps1</a>, for PowerShell:
          <code>.\granary-inventory.ps1 &gt; NAME.json</code>
        </li>
      </ul>
      <p>
        Or what the system's own tools print: <code>lsblk --json -b -O</code> of one computer, <code>sfdisk --json DISK</code> of one disk.
        Or CSV whose first line names <code>computer</code> and <code>size_bytes</code>, and if you have them
        <code>disk_model, serial, partition, partition_size_bytes, file_system, used_bytes</code>. Your own script may print JSON by
        <a href="/api/v1/imports/downloads/inventory.schema.json" download>this schema</a>.
      </p>
    </section>
  </div>
</template>

<style scoped>
.columns { display: grid; grid-template-columns: 3fr 2fr; gap: 30px; }
.reviewed { margin-top: 22px; border-top: 1px solid var(--rule); padding-top: 16px; }
.line { display: flex; gap: 12px; align-items: center; margin: 8px 0; }
.file { cursor: pointer; position: relative; }
.file input { position: absolute; inset: 0; opacity: 0; cursor: pointer; }
.file:focus-within { outline: 2px solid var(--slate); outline-offset: 2px; }
.text { font-family: ui-monospace, monospace; font-size: 12.5px; }
section p, section li { margin-bottom: 8px; font-size: 13.5px; }
ul { padding-left: 18px; margin: 0; }
code { font-size: 12.5px; background: var(--wash); padding: 1px 4px; }
</style>
