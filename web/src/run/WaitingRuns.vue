<script setup lang="ts">
import Button from 'primevue/button'
import { reactive } from 'vue'
import { client } from '../api/client'
import type { RunLine } from '../api/types'
import { useAction } from '../api/useAction'
import { formatMoment } from '../measure/times'
import { useSession } from '../session/useSession'
import { kindWord } from './runWords'
import PassphraseField from './PassphraseField.vue'
import { useChanged } from '../query/ask'

/** The queue: what waits, for what, until when. */
defineProps<{ waiting: readonly RunLine[] }>()
const { mayAct } = useSession()
const changed = useChanged()
const secrets = reactive<Record<string, string>>({})
const locked = (run: RunLine) => run.waits === 'passphrase'

const { act, refused } = useAction(async (run: RunLine, what: 'start' | 'stop') => {
  const params = { path: { id: run.id } }
  if (what === 'start') await client.POST('/api/v1/runs/{id}/start', { params, body: { passphrase: secrets[run.id] || null } })
  else await client.POST('/api/v1/runs/{id}/stop', { params })
  void changed('waiting', 'runs', 'today')
})
</script>

<template>
  <section v-if="waiting.length" class="waiting">
    <h2 class="section">Waiting</h2>
    <p v-if="refused" class="notice" role="alert">{{ refused }}</p>
    <table>
      <tbody>
        <tr v-for="run in waiting" :key="run.id">
          <td>{{ kindWord(run.kind) }}</td>
          <td>
            <b>{{ run.computer }}</b> {{ run.disk }}
          </td>
          <td>{{ run.destination }}</td>
          <td>
            {{ run.startsAt ? `at ${formatMoment(run.startsAt)}` : 'as soon as it can'
            }}<span v-if="run.lowPriority" class="soft">, giving way</span>
          </td>
          <td class="small soft">{{ run.outcome }}</td>
          <td class="does">
            <template v-if="mayAct">
              <PassphraseField
                v-if="locked(run)"
                :model-value="secrets[run.id] ?? ''"
                @update:model-value="(v: string) => (secrets[run.id] = v)"
              />
              <Button
                v-if="run.startsAt || locked(run)"
                label="Start now"
                size="small"
                text
                :disabled="locked(run) && !secrets[run.id]"
                @click="act(run, 'start')"
              />
              <Button label="Take out" size="small" text severity="secondary" @click="act(run, 'stop')" />
            </template>
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.waiting { border-top: 1px solid var(--ink); padding: 12px 0 18px; }
.does { text-align: right; white-space: nowrap; }
td { vertical-align: middle; }
</style>
