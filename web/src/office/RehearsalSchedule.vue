<script setup lang="ts">
import Button from 'primevue/button'
import { ref, watch } from 'vue'
import { client } from '../api/client'
import { useAction } from '../api/useAction'
import NumberField from '../field/NumberField.vue'
import { useSession } from '../session/useSession'
import { useRehearsalSchedule } from '../query/office'

/** How often images are restored for practice without anybody asking. */
const { mayAct } = useSession()
const schedule = useRehearsalSchedule()
const days = ref(0)
watch(schedule.data, (now) => now && (days.value = now.days), { immediate: true })
const {
  act: save,
  busy,
  refused,
} = useAction(async () => {
  await client.PUT('/api/v1/rehearsals/schedule', { body: { days: days.value } })
  await schedule.refetch()
})
</script>

<template>
  <section>
    <h2 class="section">Rehearsals</h2>
    <div class="line">
      <NumberField
        v-model="days"
        label="Every disk's newest image is restored for practice every"
        unit="days, when nobody works (0: only by hand)"
        min="0"
        max="365"
        :disabled="!mayAct"
      />
      <Button
        v-if="mayAct"
        type="button"
        label="Save this"
        size="small"
        severity="secondary"
        outlined
        :loading="busy"
        :disabled="days === schedule.data.value?.days"
        @click="save()"
      />
    </div>
    <p v-if="refused" class="notice" role="alert">{{ refused }}</p>
  </section>
</template>

<style scoped>
h2.section.section { margin: 20px 0 8px; }
.line { display: flex; gap: 14px; align-items: end; }
</style>
