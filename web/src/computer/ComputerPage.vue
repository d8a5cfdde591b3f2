<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { tellAtFields } from '../field/refusedField'
import { client, sentenceOf } from '../api/client'
import type { ComputerForm } from '../api/types'
import { useAction } from '../api/useAction'
import PageHeading from '../frame/PageHeading.vue'
import RefusedNotice from '../frame/RefusedNotice.vue'
import { useUnits } from '../measure/useUnits'
import { formatAge, formatMoment } from '../measure/times'
import { useNow } from '../measure/useNow'
import { useSession } from '../session/useSession'
import ComputerFacts from './ComputerFacts.vue'
import ComputerFields from './ComputerFields.vue'
import DiskByHand from './DiskByHand.vue'
import DiskSection from './DiskSection.vue'
import FilesSaved from './FilesSaved.vue'
import TextureKey from './TextureKey.vue'
import { useChanged } from '../query/ask'
import { useComputer } from '../query/computers'

const props = defineProps<{ computerId: string }>()
const { size } = useUnits()
const { mayAct } = useSession()
const now = useNow(30_000)
const changed = useChanged()
const editing = ref(false)
const fields = ref<InstanceType<typeof ComputerFields> | null>(null)
const addingDisk = ref(false)
const detail = useComputer(() => props.computerId)
const computer = computed(() => detail.data.value)
const present = computed(() => computer.value?.disks.filter((d) => !d.removedAt) ?? [])
const removed = computed(() => computer.value?.disks.filter((d) => d.removedAt) ?? [])
const summary = computed(() => {
  if (!computer.value) return ''
  const { line } = computer.value
  const disks = line.disks
  const what = [line.role, line.owner].filter(Boolean).join(', ')
  const read = size(disks.reduce((sum, d) => sum + d.usedBytes, 0))
  const image = line.lastImageAt
    ? `Last image ${formatAge(line.lastImageAt, now.value)}${line.lastImageSound ? ', sound' : ', damaged'}.`
    : 'Never imaged.'
  return `${what ? `${what}. ` : ''}${disks.length} ${disks.length === 1 ? 'disk' : 'disks'}, ${read} to read. ${image}`
})

async function refresh() {
  await Promise.all([detail.refetch(), changed('computers')])
}

const {
  act: save,
  whileBusy,
  busy: saving,
  refusal,
  conflict,
} = useAction(async (form: ComputerForm, version: number) => {
  await client.PUT('/api/v1/computers/{id}', {
    params: { path: { id: props.computerId }, header: { 'If-Match': `"${version}"` } },
    body: form,
  })
  editing.value = false
  await refresh()
})
const refused = tellAtFields(refusal)
const keepMine = () =>
  whileBusy(async () => {
    fields.value?.goOn((await detail.refetch()).data)
  })
async function added() {
  addingDisk.value = false
  await refresh()
}
const { act: remove, refused: notRemoved } = useAction(async (diskId: string) => {
  await client.DELETE('/api/v1/computers/{id}/disks/{diskId}', { params: { path: { id: props.computerId, diskId } } })
  await refresh()
})
const { act: retire, refused: notRetired } = useAction(async () => {
  await client.POST('/api/v1/computers/{id}/retirement', {
    params: { path: { id: props.computerId } },
    body: { retired: !computer.value!.line.retired },
  })
  await refresh()
})
</script>

<template>
  <PageHeading :title="computer?.line.name ?? 'Computer'"
    >{{ summary }}
    <template #action>
      <div v-if="computer && !editing" class="tools">
        <RouterLink :to="`/computers/${computerId}/card`" class="to-card">If it dies today</RouterLink
        ><template v-if="mayAct">
          <Button
            :label="computer.line.retired ? 'Bring back into use' : 'Retire'"
            severity="secondary"
            outlined
            :title="computer.line.retired ? '' : 'Its disks and images stay'"
            @click="retire" />
          <Button label="Add a disk" severity="secondary" outlined @click="addingDisk = true" />
          <Button label="Edit" severity="secondary" outlined @click="editing = true"
        /></template>
      </div>
    </template>
  </PageHeading>
  <RefusedNotice :sentence="refused || notRetired || notRemoved" :conflict="conflict" @keep="keepMine" />
  <p v-if="detail.error.value" class="notice" role="alert">
    {{ sentenceOf(detail.error.value) }} <RouterLink to="/computers">Back to the computers</RouterLink>
  </p>
  <p v-if="computer?.line.retired" class="notice">This computer is retired. It is not imaged any more; its images stay.</p>
  <p v-if="computer?.line.warning" class="notice" role="alert">{{ computer.line.warning }}</p>
  <template v-if="computer">
    <ComputerFields
      v-if="editing"
      ref="fields"
      :form="computer.form"
      :version="computer.version"
      :suggested-key="computer.suggestedKey"
      :busy="saving"
      action="Save"
      @save="save"
      @leave="editing = false"
    />
    <ComputerFacts v-else :form="computer.form" :suggested-key="computer.suggestedKey" :source="computer.source" />
    <DiskByHand v-if="addingDisk" :computer-id="computerId" @added="added" @leave="addingDisk = false" />
    <FilesSaved :key="computer.version" :detail="computer" :may-act="mayAct" @saved="refresh" />
    <DiskSection
      v-for="d in present"
      :key="d.line.id"
      :disk="d"
      :may-act="mayAct"
      :retired="computer.line.retired"
      @remove="remove(d.line.id)"
    />
    <p v-if="!present.length" class="empty">
      No disk is known yet. <RouterLink to="/import">Import a report</RouterLink> that a script prints on it.
    </p>
    <TextureKey v-if="present.length" />
    <section v-if="removed.length" class="removed">
      <h2 class="section">No longer in it</h2>
      <p v-for="d in removed" :key="d.line.id" class="soft">
        {{ d.line.model }} {{ d.line.serial }}, {{ size(d.line.sizeBytes) }}, found to be gone {{ formatMoment(d.removedAt!) }}. Its images
        stay.
      </p>
    </section>
  </template>
</template>

<style scoped>
.tools { display: flex; gap: 12px; align-items: center; }
.to-card { white-space: nowrap; }
.removed { margin-top: 18px; }
</style>
