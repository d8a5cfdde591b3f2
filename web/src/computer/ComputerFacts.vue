<script setup lang="ts">
import { computed } from 'vue'
import type { ComputerForm } from '../api/types'
import { ENCRYPTIONS, FIRMWARES, KEY_PLACES, labelOf } from './choices'

const props = defineProps<{ form: ComputerForm; suggestedKey: string; source: string }>()
const facts = computed(() => {
  const f = props.form
  const secure = f.secureBoot === null ? 'secure boot not known' : f.secureBoot ? 'secure boot on' : 'secure boot off'
  const key = f.bootKey || (props.suggestedKey ? `not noted; makers of that name usually take ${props.suggestedKey}, try it` : 'not noted')
  const place = [labelOf(KEY_PLACES, f.keyPlace), f.keyNote].filter(Boolean).join(', ')
  return [
    ['Machine', [f.maker, f.model].filter(Boolean).join(' ') || 'not known'],
    ['System', f.operatingSystem || 'not known'],
    ['Firmware', f.firmware === 'uefi' ? `UEFI, ${secure}` : labelOf(FIRMWARES, f.firmware)],
    ['Boot-menu key', key],
    ['Encryption', f.encryption === 'volumes' ? `encrypted; key ${place}` : labelOf(ENCRYPTIONS, f.encryption)],
    ['Known by', props.source],
    ...(f.note ? [['Note', f.note]] : []),
    ...(f.checks ? [['Looked at when it is back', f.checks.split('\n').join('; ')]] : []),
  ]
})
</script>

<template>
  <dl>
    <div v-for="[term, fact] in facts" :key="term">
      <dt>{{ term }}</dt>
      <dd>{{ fact }}</dd>
    </div>
  </dl>
</template>

<style scoped>
dl { display: grid; grid-template-columns: repeat(3, 1fr); gap: 6px 26px; margin: 0 0 18px; font-size: 13.5px; }
dl div { display: flex; gap: 10px; border-top: 1px solid var(--rule-soft); padding-top: 5px; min-width: 0; }
dt { color: var(--ink-soft); flex: none; width: 92px; }
dd { margin: 0; overflow-wrap: anywhere; }
</style>
