<script setup lang="ts">
import { computed, ref } from 'vue'
import { client } from '../api/client'
import type { MediumLine, RescuePageData } from '../api/types'
import { useAction } from '../api/useAction'
import { useUnits } from '../measure/useUnits'
import ConfirmOverwrite from '../restore/ConfirmOverwrite.vue'
import TargetTable from '../restore/TargetTable.vue'
import { useChanged } from '../query/ask'
import { useTargets } from '../query/targets'

/** Writes a file onto the stick of the register: what is on it is shown, and its serial typed. */
const props = defineProps<{ medium: MediumLine; files: RescuePageData['files'] }>()
const emit = defineEmits<{ done: [] }>()
const { size } = useUnits()
const changed = useChanged()
const fileId = ref('')
const targetId = ref('')
const targets = useTargets()
const target = computed(() => targets.data.value?.find((t) => t.id === targetId.value))
const what = (f: RescuePageData['files'][number]) => (f.imageOf ? `${f.imageOf}’s own image` : f.label || f.kind)
const {
  act: write,
  busy,
  refused,
} = useAction(async (typed: string) => {
  await client.POST('/api/v1/rescue-media/{id}/write', {
    params: { path: { id: props.medium.id } },
    body: { fileId: fileId.value, targetId: targetId.value, confirmation: typed },
  })
  await changed('rescue-media')
  emit('done')
})
</script>

<template>
  <div class="write">
    <h3>What is written onto {{ medium.name }}</h3>
    <table>
      <tbody>
        <tr v-for="f in files" :key="f.id" :class="{ soft: f.refusal }">
          <td>
            <label
              ><input v-model="fileId" type="radio" name="file" :value="f.id" :disabled="!!f.refusal" /> <b>{{ f.name }}</b></label
            >
          </td>
          <td class="number">{{ size(f.bytes) }}</td>
          <td>{{ f.refusal || `${what(f)}, starts ${f.starts.join(' and ') || 'nothing'}, ${f.where}` }}</td>
        </tr>
        <tr v-if="!files.length">
          <td class="soft">No ISO or disk image is there. Put one into the folder "rescue" beside Granary's data.</td>
        </tr>
      </tbody>
    </table>
    <template v-if="fileId"
      ><h3>The stick</h3>
      <TargetTable v-model="targetId" :targets="targets.data.value ?? []" :kinds="['stick']" name="stick"
    /></template>
    <ConfirmOverwrite
      v-if="fileId && target"
      :target="target"
      verb="Overwrite this stick"
      :busy="busy"
      :refused="refused"
      @confirmed="write"
    />
  </div>
</template>

<style scoped>
.write { border-left: 3px solid var(--grain); padding-left: 14px; margin-top: 8px; }
h3 { margin: 6px 0 2px; }
input { accent-color: var(--grain); }
</style>
