<script setup lang="ts">
import InputText from 'primevue/inputtext'
import Textarea from 'primevue/textarea'
import { computed, ref } from 'vue'
import type { PlanForm } from '../api/types'
import StoringRows from '../capture/StoringRows.vue'
import FolderExample from '../folder/FolderExample.vue'
import RhythmFields from './RhythmFields.vue'
import { AFTERWARDS } from '../computer/afterwards'
import { toAddresses } from '../mail/addresses'
import { toLines } from './planWords'

/** What of a plan is neither disk, compression nor drive. Changes the form it is given. */
const props = defineProps<{ form: PlanForm; leftOutBytes: number; locked: boolean; refusedField: string; exampleName: string }>()
const form = computed(() => props.form)
const mail = ref(props.form.mailTo.join(', '))
const checklist = ref(props.form.checklist.join('\n'))
const KEPT = [
  { key: 'last', name: 'last' },
  { key: 'daily', name: 'days' },
  { key: 'weekly', name: 'weeks' },
  { key: 'monthly', name: 'months' },
  { key: 'yearly', name: 'years' },
] as const
</script>

<template>
  <fieldset :disabled="locked">
    <legend class="visually-hidden">The rest of the plan</legend>
    <table>
      <tbody>
        <tr>
          <th colspan="2" scope="rowgroup">What is stored</th>
        </tr>
        <StoringRows
          v-model:all-blocks="form.allBlocks"
          v-model:keep-swap="form.keepSwap"
          v-model:split-bytes="form.splitBytes"
          :left-out-bytes="leftOutBytes"
        />
        <tr>
          <td class="soft">Encryption</td>
          <td>
            <label><input v-model="form.encrypted" type="radio" name="encrypted" :value="false" /> none</label>
            <label><input v-model="form.encrypted" type="radio" name="encrypted" :value="true" /> with a passphrase</label>
          </td>
        </tr>
      </tbody>
      <tbody>
        <tr>
          <th colspan="2" scope="rowgroup">Where it is stored</th>
        </tr>
        <tr>
          <td class="soft"><label for="plan-naming">Named</label></td>
          <td>
            <InputText
              id="plan-naming"
              v-model.lazy="form.naming"
              size="small"
              fluid
              maxlength="100"
              :invalid="refusedField === 'naming'"
            /><span class="soft small example">{{ exampleName }}</span>
          </td>
        </tr>
        <tr>
          <td class="soft"><label for="plan-folder">Folder</label></td>
          <td>
            <InputText
              id="plan-folder"
              v-model.lazy="form.folder"
              size="small"
              fluid
              maxlength="100"
              spellcheck="false"
              :invalid="refusedField === 'folder'"
            />
            <FolderExample :pattern="form.folder" :disk-id="form.source.diskId" where="As the office chose:" />
          </td>
        </tr>
      </tbody>
      <tbody>
        <tr>
          <th colspan="2" scope="rowgroup">When, and how long it is kept</th>
        </tr>
        <RhythmFields :form="form" :refused-field="refusedField" />
        <tr>
          <td class="soft">Started from</td>
          <td>
            <label><input v-model="form.booted" type="radio" name="booted" :value="true" /> rescue media, by a person</label>
            <label><input v-model="form.booted" type="radio" name="booted" :value="false" /> where it runs</label>
          </td>
        </tr>
        <tr>
          <td class="soft">Kept</td>
          <td>
            <div class="kept">
              <label><input v-model="form.keep.asOffice" type="checkbox" /> as the office does</label>
              <template v-if="!form.keep.asOffice">
                <label v-for="k in KEPT" :key="k.key"
                  ><input v-model.number="form.keep[k.key]" type="number" min="0" max="999" :aria-label="`Kept: ${k.name}`" />
                  {{ k.name }}</label
                >
                <label
                  >none younger than
                  <input v-model.number="form.keep.minimumDays" type="number" min="0" max="9999" aria-label="Kept at least days" /> days
                  goes</label
                >
                <label
                  >at most
                  <input v-model.number="form.keep.maximumDays" type="number" min="0" max="9999" aria-label="Kept at most days" /> days (0:
                  any)</label
                >
                <label
                  >at least
                  <input v-model.number="form.keep.leastProven" type="number" min="1" max="999" aria-label="Kept proven at least" />
                  proven</label
                >
              </template>
              <label><input v-model="form.keep.automatic" type="checkbox" /> release the rest by itself</label>
            </div>
          </td>
        </tr>
        <tr>
          <td class="soft">Proof</td>
          <td>
            every frame read back, again after
            <input v-model.number="form.recheckDays" type="number" min="1" max="3650" class="wide" aria-label="Checked again after days" />
            days
          </td>
        </tr>
        <tr>
          <td class="soft">Then</td>
          <td>
            <label v-for="a in AFTERWARDS" :key="a.key"
              ><input v-model="form.afterwards" type="radio" name="afterwards" :value="a.key" /> {{ a.label }}</label
            >
          </td>
        </tr>
        <tr>
          <td class="soft"><label for="plan-mail">Mail to</label></td>
          <td>
            <InputText
              id="plan-mail"
              v-model="mail"
              size="small"
              fluid
              placeholder="nobody"
              :invalid="refusedField === 'mailTo'"
              @change="form.mailTo = toAddresses(mail)"
            />
          </td>
        </tr>
        <tr>
          <td class="soft"><label for="plan-checklist">Before the night</label></td>
          <td>
            <Textarea id="plan-checklist" v-model="checklist" rows="4" size="small" fluid @change="form.checklist = toLines(checklist)" />
          </td>
        </tr>
        <tr>
          <td class="soft"><label for="plan-note">Note</label></td>
          <td><InputText id="plan-note" v-model.lazy="form.note" size="small" fluid maxlength="2000" /></td>
        </tr>
      </tbody>
    </table>
  </fieldset>
</template>

<style scoped>
fieldset { border: 0; padding: 0; margin: 0; min-width: 0; }
td { padding-top: 3.5px; padding-bottom: 3.5px; }
th { text-align: left; font-size: 14px; font-weight: 600; color: var(--ink); padding: 14px 0 4px; border-bottom: 1px solid var(--ink); }
td:first-child { width: 92px; white-space: nowrap; }
label { white-space: nowrap; margin-right: 10px; cursor: pointer; }
:deep(input[type='radio']) { accent-color: var(--grain); margin: 0 3px 0 0; vertical-align: -1px; }
:deep(input[type='number']) {
  font: inherit;
  color: inherit;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
  padding: 1px 3px;
  width: 40px;
  font-variant-numeric: tabular-nums;
}
.kept { display: flex; flex-wrap: wrap; gap: 3px 10px; }
.kept label { margin-right: 0; }
.kept :deep(input[type='number']) { width: 36px; }
.wide { width: 54px !important; }
.example { display: block; overflow-wrap: anywhere; }
</style>
