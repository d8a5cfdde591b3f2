<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { client } from '../api/client'
import type { ImageDetail } from '../api/types'
import { useAction } from '../api/useAction'
import { formatMoment } from '../measure/times'
import PassphraseField from '../run/PassphraseField.vue'
import { useSession } from '../session/useSession'
import { useRehearsals } from '../query/images'

/** Restores for practice: onto scratch, compared, started in a machine made of software, with the picture of its screen as evidence. */
const props = defineProps<{ detail: ImageDetail }>()
const { mayAct } = useSession()
const id = computed(() => props.detail.image.id)
const secret = ref('')
const all = useRehearsals(() => id.value)
const { act, busy, refused } = useAction(async () => {
  await client.POST('/api/v1/rehearsals/of/{imageId}', {
    params: { path: { imageId: id.value } },
    body: { passphrase: secret.value || null },
  })
  await all.refetch()
})
</script>

<template>
  <section>
    <h2 class="section">Bring it back</h2>
    <p class="does">
      <RouterLink :to="{ path: '/restore', query: { image: id, computer: detail.image.computer } }">Restore it onto a disk</RouterLink>
      <template v-if="mayAct && detail.image.format === 'granary'">
        <PassphraseField v-if="detail.image.encrypted" v-model="secret" label="Passphrase to rehearse" />
        <Button
          label="Rehearse, and start it"
          size="small"
          severity="secondary"
          outlined
          :loading="busy"
          :disabled="detail.image.encrypted && !secret"
          @click="act()"
        />
        <span class="small soft"
          >its picture comes first, started without a network from the image itself; then it is restored onto scratch and compared</span
        >
      </template>
    </p>
    <p v-if="refused" class="notice" role="alert">{{ refused }}</p>
    <div v-for="r in all.data.value" :key="r.id" class="one">
      <a v-if="r.picture" :href="`/api/v1/rehearsals/${r.id}/picture`" target="_blank"
        ><img
          :src="`/api/v1/rehearsals/${r.id}/picture`"
          :alt="`Its screen when it was started on ${formatMoment(r.askedAt)}`"
          width="160"
          height="107"
      /></a>
      <p class="small">
        {{ formatMoment(r.askedAt) }}, asked by {{ r.askedBy }}: {{
          r.endedAt
            ? r.outcome
            : r.picture
              ? 'it was started; this is its screen. The restore onto scratch is under way.'
              : 'under way, or waits'
        }}<template v-if="r.serial"
          ><br />Over its serial line: <code>{{ r.serial.slice(0, 200) }}</code></template
        >
      </p>
    </div>
  </section>
</template>

<style scoped>
.does { display: flex; gap: 12px; align-items: center; flex-wrap: wrap; }
.one { display: flex; gap: 12px; margin: 8px 0; }
img { border: 1px solid var(--rule); object-fit: contain; background: #000; }
</style>
