<script setup lang="ts">
import Button from 'primevue/button'
import { reactive } from 'vue'
import { answer, client } from '../api/client'
import type { UntoldLine } from '../api/types'
import { useAction } from '../api/useAction'
import SelectField from '../field/SelectField.vue'
import { useUnits } from '../measure/useUnits'
import { useAnswered } from '../query/ask'
import { useSession } from '../session/useSession'

/** Attached disks that do not tell which they are: a person says it, as long as each stays plugged in. */
defineProps<{ disks: UntoldLine[] }>()
const { size } = useUnits()
const { mayAct } = useSession()
const answered = useAnswered()
const said = reactive<Record<string, string>>({})
const NEW = 'new'
const {
  act: tell,
  busy,
  refused,
} = useAction(async (attachment: string) => {
  const diskId = said[attachment] === NEW ? '' : said[attachment]!
  answered(['computers'], await answer(client.POST('/api/v1/computers/told', { body: { attachment, diskId } })))
})
</script>

<template>
  <section class="untold">
    <h2 class="section">
      {{ disks.length === 1 ? 'One attached disk does' : `${disks.length} attached disks do` }} not tell which
      {{ disks.length === 1 ? 'it is' : 'they are' }}
    </h2>
    <p class="soft small">Granary does not read or write such a disk. Say which one it is; that holds while it stays plugged in.</p>
    <table>
      <tbody>
        <tr v-for="d in disks" :key="d.attachment">
          <td>
            <b>{{ d.name }}</b>
          </td>
          <td>{{ d.model || 'no model' }}, serial {{ d.serial || 'none' }}</td>
          <td class="number">{{ size(d.sizeBytes) }}</td>
          <td class="small">
            {{ d.why }}<span v-if="d.reached" class="soft reached">at {{ d.reached }}</span>
          </td>
          <td>
            <form v-if="mayAct" @submit.prevent="tell(d.attachment)">
              <SelectField
                :model-value="said[d.attachment] ?? ''"
                :label="`Which disk ${d.name} is`"
                placeholder="choose"
                :options="[
                  ...d.maybe.map((m) => ({
                    key: m.diskId,
                    label: `${m.computer}, ${m.disk} (${m.model}, serial ${m.serial || 'none'})`,
                  })),
                  { key: NEW, label: 'a disk that is not known yet' },
                ]"
                @update:model-value="said[d.attachment] = $event"
              />
              <Button
                type="submit"
                label="Confirm"
                size="small"
                severity="secondary"
                outlined
                :disabled="!said[d.attachment]"
                :loading="busy"
              />
            </form>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="refused" class="notice" role="alert">{{ refused }}</p>
  </section>
</template>

<style scoped>
.untold { border: 1px solid var(--rule); border-radius: 3px; background: var(--sheet); padding: 12px 16px; margin-bottom: 16px; }
h2.section.section { margin: 0; font-size: 15px; }
td { vertical-align: baseline; }
form { display: flex; gap: 8px; align-items: end; }
.reached { display: block; overflow-wrap: anywhere; }
</style>
