<script setup lang="ts">
import { computed } from 'vue'
import { sentenceOf } from '../api/client'
import type { OtherImage } from '../api/types'
import { formatDate } from '../measure/times'
import { useUnits } from '../measure/useUnits'
import { useSameFile } from '../query/inside'

/** How a file is in another image of its disk. */
const props = defineProps<{ imageId: string; place: string; other: OtherImage }>()
const emit = defineEmits<{ go: [imageId: string] }>()
const { size } = useUnits()
const same = useSameFile(
  () => props.imageId,
  () => props.place,
  () => props.other.id,
  () => props.other.attached,
)
const WORDS: Record<string, string> = { missing: 'not there', locked: 'encrypted', away: `${props.other.destination} is away` }
const there = computed(() => ['same', 'other', 'as_long'].includes(same.data.value?.same ?? ''))
</script>

<template>
  <tr :title="other.name">
    <td>{{ formatDate(other.madeAt) }}</td>
    <td class="number">{{ there ? size(same.data.value?.bytes ?? 0) : '' }}</td>
    <td class="number">
      <span v-if="!other.attached" class="soft">{{ other.destination }} is away</span>
      <span v-else-if="same.error.value" class="soft" :title="sentenceOf(same.error.value)">not read</span>
      <span v-else-if="!same.data.value" class="soft">…</span>
      <span v-else-if="same.data.value.same === 'same'" class="moss">same</span>
      <button v-else-if="there" type="button" class="figure" @click="emit('go', other.id)">
        {{ same.data.value.same === 'other' ? 'other' : 'as long' }}
      </button>
      <span v-else class="soft">{{ WORDS[same.data.value.same] }}</span>
    </td>
  </tr>
</template>
