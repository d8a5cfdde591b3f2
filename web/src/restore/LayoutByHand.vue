<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import type { LayoutDetail } from '../api/types'
import NumberField from '../field/NumberField.vue'
import SelectField from '../field/SelectField.vue'
import TextField from '../field/TextField.vue'
import { fileSystemName } from '../measure/fileSystemName'
import { useUnits } from '../measure/useUnits'
import { usePageKeys } from '../keys/pageKeys'
import { sliderBytes, type NewPartition } from './layout'

/** A layout as a person sets it: sizes, what is left out, and new partitions in what stays free. All of it is drawn on the lower strip. */
const props = defineProps<{ found: LayoutDetail; parts: LayoutDetail['placed'] }>()
const sizes = defineModel<Record<string, number>>('sizes', { required: true })
const left = defineModel<number[]>('left', { required: true })
const added = defineModel<NewPartition[]>('added', { required: true })
const { size } = useUnits()

const rows = computed(() =>
  props.parts.map((p) => ({ ...(props.found.placed.find((one) => one.number === p.number) ?? p), left: left.value.includes(p.number) })),
)
function byHand(number: number, event: Event, min: number, max: number) {
  sizes.value = { ...sizes.value, [String(number)]: sliderBytes(Number((event.target as HTMLInputElement).value), min, max) }
}
const toggle = (number: number) =>
  (left.value = left.value.includes(number) ? left.value.filter((n) => n !== number) : [...left.value, number])

const KINDS = ['exfat', 'ntfs', 'ext4'].map((key) => ({ key, label: fileSystemName(key) }))
const GB = 1_000_000_000
const name = ref('')
const kind = ref('exfat')
const gigabytes = ref(0)
const wrong = computed(() => (/^[A-Za-z0-9-]{1,11}$/.test(name.value) ? '' : '1 to 11 letters, digits and hyphens'))
const asked = ref(false)
function add() {
  asked.value = true
  if (wrong.value) return
  added.value = [...added.value, { name: name.value, fileSystem: kind.value, bytes: Math.max(0, gigabytes.value) * GB }]
  name.value = ''
  gigabytes.value = 0
  asked.value = false
}
usePageKeys(
  ['← →', 'move the end of a partition a little'],
  ['PgUp PgDn', 'by a tenth of what it can be'],
  ['Home End', 'to its bounds'],
)
</script>

<template>
  <table class="hand">
    <tbody>
      <tr v-for="p in rows" :key="p.number">
        <td>{{ p.name || p.type }}</td>
        <template v-if="p.left">
          <td colspan="3" class="soft">left out: it is not on the target</td>
        </template>
        <template v-else>
          <td>
            <input
              type="range"
              min="0"
              max="1000"
              :value="p.maxBytes > p.minBytes ? Math.round(((p.toBytes - p.minBytes) / (p.maxBytes - p.minBytes)) * 1000) : 0"
              :aria-label="`Size of ${p.name || p.type}`"
              :disabled="p.maxBytes <= p.minBytes"
              @change="byHand(p.number, $event, p.minBytes, p.maxBytes)"
            />
          </td>
          <td class="number">{{ size(p.toBytes) }}</td>
          <td class="soft small">{{ size(p.minBytes) }} to {{ size(p.maxBytes) }}</td>
        </template>
        <td>
          <button
            v-if="p.left || left.length < parts.length - 1"
            type="button"
            class="figure"
            :aria-label="`${p.left ? 'Take along' : 'Leave out'} ${p.name || p.type}`"
            @click="toggle(p.number)"
          >
            {{ p.left ? 'take it along' : 'leave it out' }}
          </button>
        </td>
      </tr>
      <tr v-for="(a, i) in added" :key="`new ${i}`">
        <td>{{ a.name }}</td>
        <td class="soft">new, empty, {{ KINDS.find((k) => k.key === a.fileSystem)?.label }}</td>
        <td class="number">{{ a.bytes ? size(a.bytes) : 'all that is free' }}</td>
        <td></td>
        <td>
          <button type="button" class="figure" :aria-label="`Do not make ${a.name}`" @click="added = added.filter((_, n) => n !== i)">
            do not make it
          </button>
        </td>
      </tr>
    </tbody>
  </table>
  <form class="new" novalidate @submit.prevent="add()">
    <TextField v-model="name" label="New partition" :error="asked ? wrong : ''" maxlength="11" />
    <SelectField v-model="kind" label="File system" :options="KINDS" />
    <NumberField v-model="gigabytes" label="Size" unit="GB" hint="0 for all that stays free" min="0" />
    <Button type="submit" label="Add it" size="small" severity="secondary" outlined />
  </form>
</template>

<style scoped>
.hand { max-width: 720px; margin-top: 8px; }
.hand input { width: 240px; accent-color: var(--grain); }
.new { display: flex; gap: 14px; align-items: flex-start; flex-wrap: wrap; margin-top: 8px; }
.new .p-button { margin-top: 22px; }
</style>
