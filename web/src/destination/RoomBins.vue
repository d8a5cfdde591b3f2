<script setup lang="ts">
import { computed, ref } from 'vue'
import type { DestinationLine } from '../api/types'
import { useUnits } from '../measure/useUnits'
import { useWidth } from '../measure/useWidth'
import { layRoom } from './room'

const props = defineProps<{ destinations: DestinationLine[]; shown: string }>()
const chosen = defineModel<string>({ required: true })
const { size } = useUnits()
const HEIGHT = 190
const WIDE = 58
const box = ref<HTMLElement | null>(null)
const width = useWidth(box)
const step = computed(() => Math.min(170, width.value / Math.max(1, props.destinations.length)))
const rooms = computed(() => layRoom(props.destinations, HEIGHT))

/** The outline of a bin: open above, its foot sloped. */
function outline(x: number, rim: number): string {
  const l = x - WIDE / 2
  const r = x + WIDE / 2
  return `M${l} ${rim - 4}V${HEIGHT}L${l + 12} ${HEIGHT + 14}H${r - 12}L${r} ${HEIGHT}V${rim - 4}`
}
</script>

<template>
  <div ref="box">
    <svg v-if="width" :width="width" :height="HEIGHT + 18" aria-hidden="true">
      <g v-for="(d, i) in destinations" :key="d.id" :opacity="d.attached ? 1 : 0.55">
        <template v-for="x in [step * i + step / 2]" :key="x">
          <path :d="outline(x, rooms[i]!.rim)" fill="var(--sheet)" />
          <path
            :d="`M${x - WIDE / 2} ${HEIGHT}L${x - WIDE / 2 + 12} ${HEIGHT + 14}H${x + WIDE / 2 - 12}L${x + WIDE / 2} ${HEIGHT}Z`"
            fill="url(#stored)"
          />
          <rect :x="x - WIDE / 2" :width="WIDE" :y="rooms[i]!.stored" :height="HEIGHT - rooms[i]!.stored" fill="url(#stored)" />
          <rect
            :x="x - WIDE / 2"
            :width="WIDE"
            :y="rooms[i]!.promised"
            :height="rooms[i]!.stored - rooms[i]!.promised"
            fill="url(#promised)"
          />
          <path
            :d="outline(x, rooms[i]!.rim)"
            fill="none"
            stroke="var(--ink)"
            :stroke-width="shown === d.id ? 2.6 : 1.3"
            :stroke-dasharray="d.attached ? '' : '5 3'"
          />
          <path :d="`M${x - WIDE / 2 - 5} ${rooms[i]!.reserve}h9M${x + WIDE / 2 - 4} ${rooms[i]!.reserve}h9`" stroke="var(--ink)" />
        </template>
      </g>
    </svg>
    <div class="names" role="radiogroup" aria-label="Destination">
      <label v-for="d in destinations" :key="d.id" :class="{ chosen: shown === d.id }" :style="{ width: `${step}px` }">
        <span
          ><input v-model="chosen" type="radio" name="destination" :value="d.id" :checked="shown === d.id" /> <b>{{ d.name }}</b></span
        >
        <span class="soft"
          >{{ d.placeText }}<template v-if="d.form.rotation">; {{ d.form.rotation }}</template></span
        >
        <span>{{ size(d.freeBytes) }} free</span>
        <span class="soft">of {{ size(d.capacityBytes) }}</span>
        <span v-if="d.full" :class="{ brick: d.full.sentence === 'full' }"
          >full {{ d.full.sentence === 'full' ? 'now' : d.full.sentence }}</span
        >
      </label>
    </div>
  </div>
</template>

<style scoped>
.names { display: flex; font-size: 13px; line-height: 1.4; margin-top: 4px; }
label { display: flex; flex-direction: column; align-items: center; text-align: center; padding: 3px; cursor: pointer; border-radius: 3px; }
label.chosen { background: var(--wash); }
input { accent-color: var(--grain); margin: 0; }
</style>
