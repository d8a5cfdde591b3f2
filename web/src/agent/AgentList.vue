<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import { RouterLink } from 'vue-router'
import { answer, client } from '../api/client'
import { useAction } from '../api/useAction'
import { formatClock } from '../measure/times'
import { counted } from '../measure/counted'
import { useUnits } from '../measure/useUnits'
import { useAgents } from '../query/agents'
import { useChanged } from '../query/ask'
import { useSession } from '../session/useSession'

/** Computers that have joined by their agents, and the code for another one. */
const { mayAct } = useSession()
const { size } = useUnits()
const changed = useChanged()
const agents = useAgents()
const made = ref<{ command: string; expiresAt: string; fetch: string; digits: string } | null>(null)
const {
  act: make,
  busy,
  refused,
} = useAction(async () => {
  made.value = await answer(client.POST('/api/v1/agents/codes'))
})
const { act: sendAway, refused: notSent } = useAction(async (id: string) => {
  await client.DELETE('/api/v1/agents/{id}', { params: { path: { id } } })
  await changed('agents')
})
</script>

<template>
  <section class="agents">
    <h2 class="section">Joined by their agents</h2>
    <table v-if="agents.data.value?.length">
      <tbody>
        <tr v-for="a in agents.data.value" :key="a.id">
          <td>
            <RouterLink v-if="a.computerId" :to="`/computers/${a.computerId}`">{{ a.name }}</RouterLink>
            <b v-else>{{ a.name }}</b>
          </td>
          <td :class="{ brick: a.state === 'silent' }">
            {{ a.state === 'here' ? `here, by its agent, since ${formatClock(a.since)}` : 'silent: its cable, or the computer, is off' }}
          </td>
          <td>{{ counted(a.disks, 'disk') }}</td>
          <td class="soft">
            <template v-if="a.upBytes !== null && a.downBytes !== null">
              network {{ size(a.upBytes) }}/s to the office, {{ size(a.downBytes) }}/s from it
            </template>
          </td>
          <td><button v-if="mayAct" type="button" class="figure" @click="sendAway(a.id)">Remove</button></td>
        </tr>
      </tbody>
    </table>
    <p v-if="mayAct">
      <Button label="Let a computer join" size="small" severity="secondary" outlined :loading="busy" @click="make()" />
    </p>
    <div v-if="made" class="small" role="status">
      <template v-if="made.fetch">
        Start the computer from any Linux stick and type these three lines; it appears here within seconds.
        <code>{{ made.fetch }}</code>
        <p>
          <code>sha256sum agent.tar.gz</code> must begin with <b>{{ made.digits }}</b>
        </p>
        <code>tar xf agent.tar.gz && granary-agent/{{ made.command }}</code>
      </template>
      <template v-else>
        Type this on the computer, where the agent was unpacked: <code>{{ made.command }}</code>
      </template>
      The code is good until {{ formatClock(made.expiresAt) }}, once.
    </div>
    <p v-if="refused || notSent" class="notice" role="alert">{{ refused || notSent }}</p>
  </section>
</template>

<style scoped>
.agents > p {
  margin-top: 12px;
}
.agents {
  margin-top: 26px;
  max-width: 860px;
}
code {
  display: table;
  background: var(--wash);
  padding: 4px 8px;
  margin: 4px 0;
  overflow-wrap: anywhere;
  user-select: all;
}
p code {
  display: inline;
}
</style>
