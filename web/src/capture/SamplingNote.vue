<script setup lang="ts">
import { computed } from 'vue'
import { client } from '../api/client'
import { useUnits } from '../measure/useUnits'
import { useSession } from '../session/useSession'
import { useSampling } from '../query/estimates'

/** Shows how far the samples of a disk are while its figures are awaited, and ends them early. */
const props = defineProps<{ diskId: string }>()
const { size } = useUnits()
const { mayAct } = useSession()
const sampling = useSampling(() => props.diskId)
const first = computed(() => sampling.data.value?.find((s) => s.mostBytes > 0))
const enough = () => client.POST('/api/v1/estimates/sampling/enough', { params: { query: { diskId: props.diskId } } })
</script>

<template>
  <span role="status"
    >Compressing a sample of it<template v-if="first"
      >: {{ size(first.doneBytes) }} of at most {{ size(first.mostBytes) }}
      <button v-if="mayAct" type="button" class="figure" @click="enough">Stop reading</button></template
    ><template v-else>…</template></span
  >
</template>
