<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { ref, watch } from 'vue'
import type { TargetLine } from '../api/types'
import { useUnits } from '../measure/useUnits'
import { useTarget } from '../query/targets'

/** The last look before a disk is overwritten: what it is, what is on it, and what must be typed off the disk itself. */
const props = withDefaults(
  defineProps<{
    target: TargetLine
    verb: string
    busy: boolean
    refused: string
    blocked?: boolean
    /** Partitions that alone are overwritten; empty for the whole disk. */
    part?: string
  }>(),
  { blocked: false, part: '' },
)
const emit = defineEmits<{ confirmed: [typed: string] }>()
const { size } = useUnits()
const typed = ref('')
watch(
  () => props.target.id,
  () => (typed.value = ''),
)
const looked = useTarget(() => props.target.id)
</script>

<template>
  <form class="confirm" @submit.prevent="emit('confirmed', typed)">
    <h2 class="section brick">{{ part ? `On this disk, ${part} will be overwritten` : 'This disk will be overwritten' }}</h2>
    <p>
      <b>{{ target.name }}</b>, {{ target.model ? `${target.model}, ` : ''
      }}<template v-if="target.serial"
        >serial <b>{{ target.serial }}</b></template
      ><template v-else>no serial</template>, {{ size(target.sizeBytes) }}.
      {{ part ? 'Its table and its other partitions stay. It holds now:' : 'All of this will be erased:' }}
    </p>
    <p v-if="looked.isPending.value" class="soft small">Reading what is on it …</p>
    <p v-else-if="looked.isError.value" class="notice" role="alert">{{ looked.error.value?.message }}</p>
    <ul v-else>
      <li v-for="h in looked.data.value?.holds" :key="h">{{ h }}</li>
    </ul>
    <p v-if="target.typedAt" class="moss">
      At the console of {{ target.typedAt }} somebody typed {{ target.ask }}, read off the disk itself. It need not be typed here.
    </p>
    <label v-else :for="`typed-${target.id}`">Type {{ target.ask }}, read off the disk itself:</label>
    <p class="does">
      <InputText v-if="!target.typedAt" :id="`typed-${target.id}`" v-model="typed" size="small" maxlength="8" autocomplete="off" />
      <Button
        type="submit"
        :label="verb"
        size="small"
        severity="danger"
        :loading="busy"
        :disabled="blocked || !looked.data.value || (!target.typedAt && typed.trim().length < 2)"
      />
    </p>
    <p v-if="refused" class="notice" role="alert">{{ refused }}</p>
  </form>
</template>

<style scoped>
.confirm { border: 1px solid var(--brick); border-radius: 3px; padding: 12px 16px; background: var(--sheet); max-width: 480px; }
h2.section.section { margin: 0 0 4px; font-size: 15px; }
ul { margin: 2px 0 8px; padding-left: 18px; font-size: 13px; color: var(--ink-soft); }
.does { display: flex; gap: 10px; margin-top: 6px; }
.does .p-inputtext { width: 96px; font-size: 17px; letter-spacing: 2px; }
.notice { margin: 10px 0 0; }
</style>
