<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { client } from '../api/client'
import { useAction } from '../api/useAction'
import { useChanged } from '../query/ask'
import { useReplug } from '../query/targets'

/** A disk that cannot be told by what it says is told by being pulled and plugged in again while Granary watches. */
const props = defineProps<{ targetId: string; name: string }>()
const emit = defineEmits<{ told: [targetId: string] }>()
const LOOK_MILLIS = 500
const changed = useChanged()
const watching = ref(false)
const {
  act: begin,
  busy,
  refused,
} = useAction(async () => {
  await client.POST('/api/v1/targets/{id}/replug', { params: { path: { id: props.targetId } } })
  await changed('replug')
  watching.value = true
})
const progress = useReplug(() => watching.value, LOOK_MILLIS)
const state = computed(() => (watching.value ? (progress.data.value?.state ?? 'watching') : ''))
const SAYS: Record<string, string> = {
  watching: 'Pull the disk you mean now.',
  pulled: 'It is gone. Plug it in again.',
  unclear: 'More than one disk went or came. Leave the others alone, and begin again.',
  late: 'Nothing was pulled within three minutes. Begin again.',
}
watch(
  () => progress.data.value,
  async (now) => {
    if (watching.value && now?.state === 'told') {
      watching.value = false
      emit('told', now.targetId) // first: once the list is read anew, this row tells by itself and has no such part any more
      await changed('targets')
    }
  },
)
</script>

<template>
  <span class="tell">
    <span v-if="SAYS[state]" role="status" :class="{ brick: state === 'unclear' || state === 'late' }"
      ><b>{{ SAYS[state] }}</b>
    </span>
    <button
      v-if="state === '' || state === 'unclear' || state === 'late'"
      type="button"
      class="figure"
      :disabled="busy"
      :aria-label="`Tell which disk ${name} is`"
      @click="begin()"
    >
      tell which disk this is
    </button>
    <span v-if="refused" role="alert" class="brick"> {{ refused }}</span>
  </span>
</template>

<style scoped>
.tell { display: block; margin-top: 3px; }
</style>
