<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import SelectField from '../field/SelectField.vue'
import DateField from '../field/DateField.vue'
import { answer, client } from '../api/client'
import type { FoundLine } from '../api/types'
import { useAction } from '../api/useAction'
import { useUnits } from '../measure/useUnits'
import { dayOf, noonOf, today } from '../measure/days'
import { useChanged } from '../query/ask'

/** One image found in a folder: what it is, whose it is, and taking it on. */
const props = defineProps<{
  found: FoundLine
  disks: { id: string; label: string }[]
  destinationId: string
  lookedIn: string
  mayAct: boolean
}>()
const emit = defineEmits<{ added: [] }>()
const { size } = useUnits()
const changed = useChanged()
const diskId = ref(props.found.diskId)
const day = ref(dayOf(new Date(props.found.writtenAt)))
const id = ref('')
const checked = ref(false)
const listed = computed(() => {
  const { files, digests } = props.found
  if (!digests) return 'no digests lie beside it'
  return digests === files ? 'with digests' : `${digests} of ${files} with digests`
})
const {
  act: add,
  busy,
  refused,
} = useAction(async (alsoCheck: boolean) => {
  const { folder, name } = props.found
  if (!id.value) {
    const added = await answer(
      client.POST('/api/v1/elsewhere', {
        body: {
          destinationId: props.destinationId,
          lookedIn: props.lookedIn,
          folder,
          name,
          diskId: diskId.value,
          madeAt: noonOf(day.value),
        },
      }),
    )
    id.value = added.id
  }
  emit('added')
  void changed('images')
  if (alsoCheck) {
    await client.POST('/api/v1/runs/checks', { body: { imageId: id.value, level: 'readable', passphrase: null } })
    checked.value = true
  }
})
</script>

<template>
  <article>
    <div>
      <b>{{ found.name }}</b> <span class="soft">{{ found.folder ? `in ${found.folder}` : '' }}</span>
      <p class="small">
        {{ size(found.storedBytes) }}{{ found.files > 1 ? ` in ${found.files} parts` : '' }}, {{ listed }}. Inside: {{ found.inside
        }}{{ found.sizeBytes ? `, a disk of ${size(found.sizeBytes)}` : '' }}{{ found.granarys ? ', in Granary’s own format' : '' }}.
        {{ found.remark }}
      </p>
      <p v-if="found.trouble" class="small brick">{{ found.trouble }}</p>
      <p v-if="refused" class="small brick" role="alert">{{ refused }}</p>
    </div>
    <div v-if="id || found.onShelf" class="small">
      On the shelf. <RouterLink v-if="id" :to="`/images/${id}`">Open it</RouterLink
      ><template v-if="checked">; <RouterLink to="/runs">its check is under way</RouterLink>.</template>
      <RouterLink v-if="!id" to="/images">See Images</RouterLink>
    </div>
    <div v-else-if="!found.trouble" class="owner">
      <SelectField
        v-model="diskId"
        label="It is of"
        :options="disks.map((d) => ({ key: d.id, label: d.label }))"
        placeholder="choose the disk"
        filter
        :aria-label="`${found.name} is of`"
      />
      <DateField v-model="day" label="As it was on" :max="today()" :aria-label="`${found.name} was made on`" />
      <p class="small soft why">
        {{ diskId && diskId === found.diskId ? found.why : diskId ? 'As you say.' : 'Nothing in it tells which disk it is of.' }}
      </p>
      <div v-if="mayAct" class="does">
        <Button label="Add and check it" size="small" :disabled="!diskId || !day" :loading="busy" @click="add(true)" />
        <Button label="Add it" size="small" severity="secondary" outlined :disabled="!diskId || !day" :loading="busy" @click="add(false)" />
      </div>
    </div>
  </article>
</template>

<style scoped>
article { display: grid; grid-template-columns: 2fr 3fr; gap: 28px; padding: 12px 0; border-top: 1px solid var(--rule); }
.owner { display: grid; grid-template-columns: 1fr 150px; gap: 6px 14px; align-items: end; }
.does { display: flex; gap: 10px; grid-column: 1 / -1; }
.why { grid-column: 1 / -1; }
</style>
