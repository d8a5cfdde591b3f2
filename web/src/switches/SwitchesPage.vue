<script setup lang="ts">
import { computed } from 'vue'
import { answer, client, sentenceOf } from '../api/client'
import type { SwitchLine } from '../api/types'
import { useAction } from '../api/useAction'
import PageHeading from '../frame/PageHeading.vue'
import { useSession } from '../session/useSession'
import { useSwitches } from '../query/accounts'
import { useAnswered, useChanged } from '../query/ask'

const { mayAct } = useSession()
const changed = useChanged()
const answered = useAnswered()
const switches = useSwitches()
const bySubject = computed(() => {
  const out = new Map<string, SwitchLine[]>()
  for (const each of switches.data.value ?? []) out.set(each.subject, [...(out.get(each.subject) ?? []), each])
  return [...out]
})
const on = computed(() => (switches.data.value ?? []).filter((s) => s.on).length)
const { act: turn, refused } = useAction(async (each: SwitchLine, now: boolean) => {
  answered(['switches'], await answer(client.PUT('/api/v1/switches/{id}', { params: { path: { id: each.id } }, body: { on: now } })))
  void changed('destinations', 'estimate', 'today', 'unfinished', 'computers')
})
</script>

<template>
  <PageHeading title="Simulated devices"
    >What can be made to go wrong here, to practise. {{ on ? `${on} switched on.` : 'Nothing is switched on.' }}</PageHeading
  >
  <p v-if="switches.error.value || refused" class="notice" role="alert">{{ refused || sentenceOf(switches.error.value) }}</p>
  <div class="subjects">
    <section v-for="[subject, each] in bySubject" :key="subject">
      <h2 class="section">{{ subject }}</h2>
      <p v-for="s in each" :key="s.id">
        <button v-if="s.once" type="button" class="figure" :disabled="!mayAct" @click="turn(s, true)">Trigger: {{ s.what }}</button>
        <label v-else
          ><input type="checkbox" :checked="s.on" :disabled="!mayAct" :aria-label="`${subject}: ${s.what}`" @change="turn(s, !s.on)" />
          {{ s.what }}</label
        >
      </p>
    </section>
  </div>
</template>

<style scoped>
.subjects { columns: 3; column-gap: 34px; }
section { break-inside: avoid; border-top: 1px solid var(--rule); padding: 8px 0 12px; }
input { accent-color: var(--grain); }
button.figure { white-space: normal; text-align: left; }
</style>
