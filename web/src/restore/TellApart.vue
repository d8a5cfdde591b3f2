<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { client } from '../api/client'
import { useAction } from '../api/useAction'
import { useChanged } from '../query/ask'
import { useReplug } from '../query/targets'

/**
 * A disk that cannot be told by what it says is told by being pulled and plugged in again while Granary watches. It stands below the list:
 * the row of the disk goes with it.
 */
const asked = defineModel<{ id: string; name: string } | null>({ required: true })
const emit = defineEmits<{ told: [targetId: string] }>()
const LOOK_MILLIS = 500
const changed = useChanged()
const watching = ref(false)
const { act: begin, refused } = useAction(async (id: string) => {
  await client.POST('/api/v1/targets/{id}/replug', { params: { path: { id } } })
  await changed('replug')
  watching.value = true
})
const progress = useReplug(() => watching.value, LOOK_MILLIS)
const state = computed(() => (watching.value ? (progress.data.value?.state ?? 'watching') : ''))
const SAYS: Record<string, string> = {
  watching: 'Unplug the disk you mean now.',
  pulled: 'It is gone. Plug it in again.',
  unclear: 'More than one disk changed. Leave the others alone, and begin again.',
  late: 'No disk was unplugged within three minutes. Begin again.',
}
const over = computed(() => state.value === 'unclear' || state.value === 'late')
watch(asked, (now) => now && begin(now.id), { immediate: true })
watch(
  () => progress.data.value,
  async (now) => {
    if (watching.value && now?.state === 'told') {
      watching.value = false
      emit('told', now.targetId)
      asked.value = null
      await changed('targets')
    }
  },
)
</script>

<template>
  <p v-if="asked" class="small">
    {{ asked.name }}: <b v-if="SAYS[state]" role="status" :class="{ brick: over }">{{ SAYS[state] }}</b>
    <span v-if="refused" role="alert" class="brick">{{ refused }}</span>
    <button v-if="over || refused" type="button" class="figure" @click="asked = null">close</button>
  </p>
</template>
