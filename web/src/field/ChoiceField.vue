<script setup lang="ts" generic="T">
import { useId } from 'vue'

/** One of a few choices, all of them in sight; where any says what it is good for, each has a line of its own. */
const props = defineProps<{ label: string; options: readonly { key: T; label: string; why?: string }[]; hint?: string }>()
const chosen = defineModel<T>({ required: true })
const name = useId()
const explained = () => props.options.some((each) => each.why)
</script>

<template>
  <fieldset class="choice" :class="{ lines: explained() }">
    <legend>{{ label }}</legend>
    <label v-for="(option, i) in options" :key="i"
      ><input v-model="chosen" type="radio" :name="name" :value="option.key" />
      <span v-if="option.why"
        ><b>{{ option.label }}</b> <span class="soft">{{ option.why }}</span></span
      ><template v-else>{{ option.label }}</template></label
    >
    <small v-if="hint">{{ hint }}</small>
  </fieldset>
</template>

<style scoped>
.choice { border: 0; padding: 0; margin: 0; min-width: 0; display: flex; flex-wrap: wrap; gap: 2px 14px; font-size: 13.5px; }
.lines { flex-direction: column; flex-wrap: nowrap; }
legend, small { color: var(--ink-soft); font-size: 13px; padding: 0; }
small { width: 100%; }
label { white-space: nowrap; cursor: pointer; }
.lines label { white-space: normal; display: flex; align-items: baseline; }
input { accent-color: var(--grain); margin: 0 3px 0 0; vertical-align: -1px; }
</style>
