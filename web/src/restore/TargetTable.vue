<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { TargetLine } from '../api/types'
import { useUnits } from '../measure/useUnits'
import { useSession } from '../session/useSession'
import TargetHolds from './TargetHolds.vue'
import TellApart from './TellApart.vue'

/**
 * Disks that could be overwritten. Those built into computers stay hidden until they are asked for; one that must not be overwritten says
 * why.
 */
const props = withDefaults(
  defineProps<{
    targets: TargetLine[]
    kinds: string[]
    name: string
    fixed?: boolean
    /** One that may be written though it is kept: a spare that is refreshed. */
    allowed?: string
  }>(),
  { fixed: false, allowed: '' },
)
const refusal = (t: TargetLine) => (t.id === props.allowed ? '' : t.refusal)
const chosen = defineModel<string>({ required: true })
const { size } = useUnits()
const { mayAct } = useSession()
const showFixed = ref(false)
const choosing = ref(false)
const telling = ref<{ id: string; name: string } | null>(null)
const one = computed(() => props.targets.find((t) => t.id === chosen.value))
/** In the order the kinds are named in; once one is chosen it stands alone. */
const shown = computed(() =>
  one.value && !choosing.value
    ? [one.value]
    : props.kinds.concat(showFixed.value ? 'fixed' : []).flatMap((kind) => props.targets.filter((t) => t.kind === kind)),
)
watch(chosen, () => (choosing.value = false))
const hidden = computed(() => (props.fixed ? props.targets.filter((t) => t.kind === 'fixed').length : 0))
</script>

<template>
  <table>
    <tbody>
      <tr v-for="t in shown" :key="t.id" :class="{ no: refusal(t) }">
        <td>
          <label
            ><input v-model="chosen" type="radio" :name="name" :value="t.id" :disabled="!!refusal(t)" /> <b>{{ t.name }}</b></label
          >
        </td>
        <td>{{ t.model ? `${t.model}, ` : '' }}{{ t.serial ? `serial ${t.serial}` : 'no serial' }}</td>
        <td class="number">{{ size(t.sizeBytes) }}</td>
        <td class="small">
          {{ refusal(t) }} <TargetHolds v-if="t.attached && t.id !== chosen" :target-id="t.id" />
          <button
            v-if="t.untold && mayAct && !telling"
            type="button"
            class="figure"
            :aria-label="`Tell which disk ${t.name} is`"
            @click="telling = { id: t.id, name: t.name }"
          >
            tell which disk this is
          </button>
        </td>
      </tr>
      <tr v-if="!shown.length">
        <td colspan="4" class="soft">No disk that could be written is attached. Attach one; it shows here in a moment.</td>
      </tr>
    </tbody>
  </table>
  <TellApart v-model="telling" @told="(id) => (chosen = id)" />
  <p v-if="one && !choosing" class="small"><button type="button" class="figure" @click="choosing = true">another disk</button></p>
  <p v-else-if="hidden" class="small">
    <label><input v-model="showFixed" type="checkbox" /> show {{ hidden }} disks that are built into computers</label>
  </p>
</template>

<style scoped>
td { vertical-align: baseline; }
td:first-child { white-space: nowrap; }
.no, .no b { color: var(--ink-soft); font-weight: 400; }
input { accent-color: var(--grain); }
</style>
