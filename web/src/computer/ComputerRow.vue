<script setup lang="ts">
import type { Computer } from '../api/types'
import { useUnits } from '../measure/useUnits'
import GrainMark from '../proof/GrainMark.vue'
import { formatAge } from '../measure/times'
import DiskStrip from './DiskStrip.vue'

defineProps<{ computer: Computer; scale: Map<string, { width: number; enlarged: boolean }>; now: number }>()
const { size } = useUnits()
</script>

<template>
  <section :class="{ retired: computer.retired }">
    <div class="who">
      <h2>
        <RouterLink :to="`/computers/${computer.id}`">{{ computer.name }}</RouterLink>
      </h2>
      <p class="soft small one">{{ [computer.role, computer.owner].filter(Boolean).join(', ') }}</p>
      <p class="small cover">
        <template v-if="computer.retired"><span class="soft">retired</span></template>
        <template v-else-if="computer.lastImageAt">
          <GrainMark :state="computer.lastImageSound ? 'kept' : 'failed'" />
          <span :class="computer.lastImageSound ? 'moss' : 'brick'"
            >{{ computer.lastImageSound ? 'sound image' : 'image damaged' }}, {{ formatAge(computer.lastImageAt, now) }}</span
          >
        </template>
        <span v-else class="grain">never imaged</span>
      </p>
      <p v-if="computer.warning" class="small brick one" :title="computer.warning">{{ computer.warning }}</p>
    </div>
    <div class="disks">
      <component
        :is="disk.attached ? 'RouterLink' : 'div'"
        v-for="disk in computer.disks"
        :key="disk.id"
        :to="`/make-image/${disk.id}`"
        class="disk"
        :class="{ away: !disk.attached }"
        :aria-label="
          disk.attached ? `Make an image of ${computer.name}, ${disk.name}` : `${computer.name}, ${disk.name}, not attached here`
        "
      >
        <div class="drawn">
          <DiskStrip v-if="!disk.refusal && disk.partitions.length" :disk="disk" :width="scale.get(disk.id)?.width ?? 0" :height="26" />
          <span v-else class="small" :class="disk.refusal ? 'brick' : 'soft'">{{ disk.refusal || 'no partitions are known' }}</span>
          <span v-if="scale.get(disk.id)?.enlarged" class="soft small beside">drawn larger than scale</span>
        </div>
        <div class="facts small">
          <b>{{ disk.name }}</b>, {{ size(disk.usedBytes) }} to read of {{ size(disk.sizeBytes) }}<br />
          <span class="soft"
            >{{ disk.model }} {{ disk.serial }},
            {{ disk.attached ? (disk.scheme === 'none' ? 'no table' : disk.scheme.toUpperCase()) : 'not attached here' }}</span
          >
        </div>
      </component>
      <p v-if="!computer.disks.length" class="soft small">No disk is known yet. Import a report of this computer.</p>
    </div>
  </section>
</template>

<style scoped>
section {
  display: grid;
  grid-template-columns: 210px 1fr;
  gap: 20px;
  padding: 10px 0;
  border-top: 1px solid var(--rule);
  height: 100%;
  overflow: hidden;
}
h2 { font-size: 19px; margin: 0; line-height: 1.25; }
h2 a { color: inherit; text-decoration: none; border-bottom: 1px solid var(--rule); }
h2 a:hover { border-bottom-color: var(--ink); }
.cover { display: flex; gap: 6px; align-items: center; margin-top: 2px; }
.one { white-space: nowrap; overflow: hidden; text-overflow: ellipsis; }
.disks { display: flex; flex-direction: column; gap: 4px; min-width: 0; }
.disk {
  display: flex;
  gap: 20px;
  justify-content: space-between;
  text-decoration: none;
  color: inherit;
  padding: 2px 4px;
  margin: 0 -4px;
  border-radius: 3px;
  height: 42px;
}
a.disk:hover { background: var(--wash); }
.away .drawn { opacity: 0.75; }
.facts { width: 268px; flex: none; line-height: 1.35; white-space: nowrap; overflow: hidden; text-overflow: ellipsis; }
.drawn { min-width: 0; display: flex; gap: 8px; align-items: center; height: 26px; }
.retired { color: var(--ink-soft); }
</style>
