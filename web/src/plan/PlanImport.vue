<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { answer, client } from '../api/client'
import type { ImportedPlan } from '../api/types'
import { useAction } from '../api/useAction'
import { importedPlan } from './importedPlan'
import PickDisk from './PickDisk.vue'

const emit = defineEmits<{ leave: [] }>()
const router = useRouter()
const read = ref<ImportedPlan | null>(null)
const { act, busy, refused } = useAction(async (event: Event) => {
  read.value = null
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  if (!file) return
  const text = await file.text()
  input.value = ''
  read.value = await answer(client.POST('/api/v1/plans/import', { body: { text } }))
})

function open(diskId: string) {
  importedPlan.value = {
    ...read.value!.form,
    source: {
      ...read.value!.form.source,
      diskId,
      without: diskId === read.value!.form.source.diskId ? read.value!.form.source.without : [],
    },
  }
  router.push(read.value!.existingId ? `/plans/${read.value!.existingId}` : `/plans/new/${diskId}`)
}
/** A disk the office does not know, as the file names it. */
const strange = (source: { computer: string; disk: string; serial: string }) =>
  `${source.computer}, ${source.disk} (serial ${source.serial || 'none'})`
</script>

<template>
  <section @keydown.esc.stop="emit('leave')">
    <p v-if="refused" class="notice" role="alert">{{ refused }}</p>
    <label class="file"
      >A plan file (.plan.json) <input type="file" accept=".json,application/json" :disabled="busy" @change="act"
    /></label>
    <template v-if="read">
      <p v-if="read.unknownDrives.length" role="status">Not known here, and left out: {{ read.unknownDrives.join(', ') }}.</p>
      <p v-if="read.existingId && !read.changes.length" role="status">
        This is the plan <b>{{ read.form.name }}</b> exactly as it is here; there is nothing to import.
      </p>
      <template v-else-if="read.diskKnown">
        <template v-if="read.existingId">
          <p>
            There is a plan <b>{{ read.form.name }}</b> here. The file would change it:
          </p>
          <ul>
            <li v-for="change in read.changes" :key="change">{{ change }}</li>
          </ul>
        </template>
        <p v-else>
          A new plan, <b>{{ read.form.name }}</b>, for {{ read.form.source.computer }}, {{ read.form.source.disk }}. Nothing is saved yet.
        </p>
        <Button
          :label="read.existingId ? 'Review these changes' : 'Review it'"
          size="small"
          @click="open(read.form.source.diskId)"
        />
      </template>
      <PickDisk
        v-else
        :question="`${strange(read.form.source)} is not in this office. For which disk is the plan?`"
        action="Look it over"
        @pick="open"
        @leave="emit('leave')"
      />
    </template>
  </section>
</template>

<style scoped>
section { border-top: 1px solid var(--rule); border-bottom: 1px solid var(--rule); padding: 12px 0; margin-bottom: 14px; }
ul { margin: 4px 0 10px; padding-left: 18px; }
p { margin-bottom: 8px; }
.file { display: block; margin-bottom: 10px; color: var(--ink-soft); font-size: 13px; }
</style>
