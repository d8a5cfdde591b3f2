<script setup lang="ts">
import type { LayoutDetail } from '../api/types'
import SelectField from '../field/SelectField.vue'
import { useUnits } from '../measure/useUnits'

/** The whole disk, or only some of its partitions, between others that stay. */
const props = defineProps<{ parts: LayoutDetail['placed']; there: LayoutDetail['there'] }>()
const some = defineModel<boolean>('some', { required: true })
const only = defineModel<number[]>('only', { required: true })
const into = defineModel<Record<string, number>>('into', { required: true })
const { size } = useUnits()

const toggle = (number: number) =>
  (only.value = only.value.includes(number) ? only.value.filter((n) => n !== number) : [...only.value, number].sort((a, b) => a - b))
const place = (number: number) => into.value[String(number)] ?? number
const put = (number: number, where: number) => (into.value = { ...into.value, [String(number)]: where })
const named = (p: (typeof props.parts)[number]) => `${p.number}: ${p.name || p.type}, ${p.fileSystem}, ${size(p.fromBytes)}`
</script>

<template>
  <fieldset class="parts">
    <legend class="hidden">How much of it</legend>
    <label><input v-model="some" type="radio" :value="false" /> everything: the target is erased</label>
    <label><input v-model="some" type="radio" :value="true" /> only some partitions: the target keeps its table and the rest</label>
    <ul v-if="some">
      <li v-for="p in parts" :key="p.number">
        <label><input type="checkbox" :checked="only.includes(p.number)" @change="toggle(p.number)" /> {{ named(p) }}</label>
        <SelectField
          v-if="only.includes(p.number) && there.length > 1"
          :model-value="place(p.number)"
          :label="`Partition ${p.number} goes into`"
          :options="there.map((t) => ({ key: t.number, label: `${t.number} of the target: ${t.name || t.type}, ${size(t.sizeBytes)}` }))"
          @update:model-value="put(p.number, $event)"
        />
      </li>
    </ul>
    <p v-if="some && !only.length" class="soft small" role="status">
      Choose at least one. Each goes into the partition of its number on the target, or into another that you name.
    </p>
  </fieldset>
</template>

<style scoped>
.parts { border: 0; padding: 0; margin: 0; display: flex; flex-direction: column; gap: 4px; }
.hidden { position: absolute; clip-path: inset(50%); width: 1px; height: 1px; overflow: hidden; }
ul { list-style: none; margin: 0; padding-left: 24px; }
input { accent-color: var(--grain); }
</style>
