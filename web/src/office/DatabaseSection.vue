<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { answer, client } from '../api/client'
import { useAction } from '../api/useAction'
import SelectField from '../field/SelectField.vue'
import { formatAge } from '../measure/times'
import { useNow } from '../measure/useNow'
import { useDestinations } from '../query/destinations'
import { useDatabase } from '../query/office'

/** Where copies of Granary's own database go. */
const copiesTo = defineModel<string>({ required: true })
const now = useNow(60_000)
const destinations = useDestinations()
const database = useDatabase()
const said = ref('')
const places = computed(() => [
  { key: '', label: 'this computer only' },
  ...(destinations.data.value ?? []).map((d) => ({ key: d.id, label: d.name })),
])
const { act: copy, busy, refused } = useAction(async () => {
  said.value = ''
  said.value = (await answer(client.POST('/api/v1/database/copies'))).sentence
  await database.refetch()
})
</script>

<template>
  <section>
    <h2 class="section">Granary’s database</h2>
    <div class="line">
      <SelectField v-model="copiesTo" name="copiesTo" label="Copied every night to" :options="places" />
      <Button type="button" label="Copy it now" size="small" severity="secondary" outlined :loading="busy" @click="copy" />
    </div>
    <p class="soft small">
      {{
        database.data.value?.newest ? `The newest copy is from ${formatAge(database.data.value.newest, now)}.` : 'There is no copy yet.'
      }}
      <code>./granary restore-database</code> brings one back.
    </p>
    <p role="status" class="moss">{{ said }}</p>
    <p v-if="refused" class="notice" role="alert">{{ refused }}</p>
  </section>
</template>
