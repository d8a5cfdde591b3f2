<script setup lang="ts">
import { computed } from 'vue'
import type { ImageCheck, ImageFacts } from '../api/types'
import { useUnits } from '../measure/useUnits'
import { imagePieces, marks } from '../proof/damageStrip'

/** An image's partitions, with what its last check found damaged and what could not be read when it was made. */
const props = defineProps<{ facts: ImageFacts; check: ImageCheck | undefined; width: number }>()
const HEIGHT = 38
const { size } = useUnits()
const pieces = computed(() => imagePieces(props.facts, props.width))
const marked = computed(() =>
  marks(pieces.value, [
    ...(props.check?.problems ?? []).map((p) => ({ startBytes: p.diskStartBytes, endBytes: p.diskEndBytes, kind: 'damage' as const })),
    ...props.facts.badSectors.map((b) => ({ startBytes: b.startBytes, endBytes: b.startBytes + b.sizeBytes, kind: 'unreadable' as const })),
  ]),
)
/** What is there at all is seen, however well it compresses. */
const barHeight = (density: number) => (density <= 0.002 ? 0 : 3 + (HEIGHT - 4) * density)
const markedAs = (kind: string) => marked.value.filter((m) => m.kind === kind).length
const words = computed(() =>
  marked.value.length ? `${markedAs('damage')} damaged and ${markedAs('unreadable')} unreadable stretches` : 'no damage known',
)
</script>

<template>
  <div class="strip" :style="{ width: `${width}px` }">
    <svg :width="width" :height="HEIGHT" role="img" :aria-label="`The image by partitions: ${words}`">
      <g v-for="(p, i) in pieces" :key="i">
        <rect :x="p.x" y="0.5" :width="p.width" :height="HEIGHT - 1" :fill="p.held ? 'url(#ruled)' : 'url(#dotted)'" />
        <rect
          v-for="(s, n) in p.slices"
          :key="n"
          :x="s.x"
          :y="HEIGHT - 0.5 - barHeight(s.density)"
          :width="s.width"
          :height="barHeight(s.density)"
          fill="var(--used)"
          :opacity="0.45 + 0.4 * s.density"
        />
        <rect :x="p.x" y="0.5" :width="p.width" :height="HEIGHT - 1" fill="transparent">
          <title>
            {{ p.label }}: {{ p.fileSystem }}, {{ size(p.sizeBytes) }};
            {{
              p.held ? 'a bar for each stretch of its chunks, as high as what is stored of it' : 'it was left out and is not in this image'
            }}
          </title>
        </rect>
        <line v-if="i > 0" :x1="p.x" :x2="p.x" y1="0" :y2="HEIGHT" stroke="var(--ink)" />
      </g>
      <g v-for="(m, i) in marked" :key="`m${i}`">
        <rect :x="m.x" y="0" :width="m.width" :height="HEIGHT" :fill="m.kind === 'damage' ? 'url(#overflow)' : 'var(--ink)'">
          <title>
            {{ m.kind === 'damage' ? 'damaged' : 'could not be read when it was made' }}: bytes {{ m.startBytes }} to
            {{ m.endBytes - 1 }} of the disk
          </title>
        </rect>
        <path
          :d="`M${m.x + m.width / 2 - 5} ${HEIGHT + 8}L${m.x + m.width / 2} ${HEIGHT + 1}L${m.x + m.width / 2 + 5} ${HEIGHT + 8}Z`"
          :fill="m.kind === 'damage' ? 'var(--brick)' : 'var(--ink)'"
        />
      </g>
      <rect
        x="0.5"
        y="0.5"
        :width="Math.max(0, width - 1)"
        :height="HEIGHT - 1"
        fill="none"
        :stroke="check && !check.ok ? 'var(--brick)' : 'var(--ink)'"
      />
    </svg>
    <div class="labels">
      <span v-for="(p, i) in pieces" :key="i" :style="{ left: `${p.x}px`, width: `${p.width - 4}px` }"
        >{{ p.label }}, {{ p.held ? p.fileSystem : 'not in the image' }}<br />{{ size(p.sizeBytes) }}</span
      >
    </div>
  </div>
</template>

<style scoped>
.strip { position: relative; }
svg { display: block; overflow: visible; }
.labels { position: relative; height: 46px; font-size: 13px; line-height: 1.3; color: var(--ink-soft); }
.labels span { position: absolute; top: 8px; overflow: hidden; white-space: nowrap; text-overflow: ellipsis; }
</style>
