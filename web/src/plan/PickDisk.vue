<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { useComputers } from '../computer/useComputers'
import SelectField from '../field/SelectField.vue'
import { useUnits } from '../measure/useUnits'

defineProps<{ question: string; action: string; busy?: boolean; complaint?: string }>()
const emit = defineEmits<{ pick: [diskId: string]; leave: [] }>()
const { computers } = useComputers()
const { size } = useUnits()
const chosen = ref('')
const disks = computed(() =>
  computers.value
    .filter((c) => !c.retired)
    .flatMap((c) =>
      c.disks.map((d) => ({ key: d.id, label: `${c.name}, ${d.name} (${d.model}, serial ${d.serial || 'none'}, ${size(d.sizeBytes)})` })),
    ),
)
</script>

<template>
  <form @submit.prevent="chosen && emit('pick', chosen)" @keydown.esc.stop="emit('leave')">
    <p v-if="complaint" class="notice" role="alert">{{ complaint }}</p>
    <SelectField v-model="chosen" class="disk" :label="question" :options="disks" filter placeholder="Choose a disk" />
    <Button type="submit" :label="action" size="small" :disabled="!chosen" :loading="busy" />
    <Button type="button" label="Close" size="small" severity="secondary" outlined @click="emit('leave')" />
  </form>
</template>

<style scoped>
form { display: flex; gap: 12px; align-items: end; padding: 10px 0 16px; flex-wrap: wrap; }
.disk { min-width: 420px; }
.notice { flex-basis: 100%; margin: 0; }
</style>
