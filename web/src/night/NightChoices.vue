<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import type { Night } from '../api/types'
import ClockField from '../field/ClockField.vue'
import SelectField from '../field/SelectField.vue'
import { formatClock } from '../measure/times'
import type { Wish } from './wish'

const props = defineProps<{ night: Night; planId: string; busy: boolean; mayAct: boolean }>()
const emit = defineEmits<{ wish: [planId: string, what: Wish] }>()
const row = computed(() => props.night.rows.find((r) => r.planId === props.planId))
const misfit = computed(() => props.night.misfits.find((m) => m.planId === props.planId))
const one = computed(() => row.value ?? misfit.value)
const time = ref(row.value ? formatClock(row.value.start, props.night.zone) : '')
const drive = ref<string | null>(row.value?.pinnedDrive ? row.value.driveId : null)
const drives = computed(() => [{ key: null, label: 'any of its drives' }, ...props.night.drives.map((d) => ({ key: d.id, label: d.name }))])
const fixed = computed(() => (row.value && (row.value.pinned || row.value.pinnedDrive)) || misfit.value?.pinned)

function pin() {
  emit('wish', props.planId, { start: time.value || null, driveId: drive.value })
}
</script>

<template>
  <section v-if="one" class="chosen">
    <p>
      <b>{{ one.computer }}, {{ one.disk }}</b
      ><template v-if="row"
        >: {{ formatClock(row.start, night.zone) }} to about {{ formatClock(row.end, night.zone) }} on {{ row.drive }}, with
        {{ row.slack }} to spare ({{ row.chance }}). {{ row.because }}</template
      >
      <template v-else>: {{ misfit?.why }}</template>
      <RouterLink :to="`/plans/${planId}`">{{ one.plan }}</RouterLink>
    </p>
    <form v-if="mayAct" @submit.prevent="pin">
      <ClockField v-model="time" label="Start at" />
      <SelectField v-model="drive" label="On which drive" :options="drives" />
      <Button type="submit" label="Pin" size="small" severity="secondary" outlined :loading="busy" />
      <Button v-if="fixed" type="button" label="Unpin" size="small" severity="secondary" outlined @click="emit('wish', planId, {})" />
      <Button
        type="button"
        label="Leave out that night"
        size="small"
        severity="secondary"
        outlined
        @click="emit('wish', planId, { leftOut: true })"
      />
    </form>
  </section>
</template>

<style scoped>
.chosen { border-left: 3px solid var(--grain); background: var(--sheet); padding: 8px 14px; margin-bottom: 14px; font-size: 13.5px; }
form { display: flex; gap: 12px; align-items: end; margin-top: 8px; flex-wrap: wrap; }
</style>
