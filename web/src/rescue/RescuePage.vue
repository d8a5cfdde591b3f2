<script setup lang="ts">
import Button from 'primevue/button'
import { computed, reactive, ref } from 'vue'
import CheckField from '../field/CheckField.vue'
import { tellAtFields } from '../field/refusedField'
import DateField from '../field/DateField.vue'
import SelectField from '../field/SelectField.vue'
import TextField from '../field/TextField.vue'
import { client, sentenceOf } from '../api/client'
import type { MediumLine } from '../api/types'
import { useAction } from '../api/useAction'
import PageHeading from '../frame/PageHeading.vue'
import { today } from '../measure/days'
import { useUnits } from '../measure/useUnits'
import { formatAge, formatDate, formatMoment } from '../measure/times'
import { useNow } from '../measure/useNow'
import { useSession } from '../session/useSession'
import StickStarts from './StickStarts.vue'
import WriteStick from './WriteStick.vue'
import { useChanged } from '../query/ask'
import { useRescueMedia } from '../query/restorations'

const { mayAct } = useSession()
const { size } = useUnits()
const now = useNow(60_000)
const changed = useChanged()
const page = useRescueMedia()
const media = computed(() => (page.data.value?.media ?? []).filter((m) => !m.retired))
const retired = computed(() => (page.data.value?.media ?? []).filter((m) => m.retired))
const uncovered = computed(() => (page.data.value?.computers ?? []).filter((c) => !c.media.length))
const tried = reactive<Record<string, string>>({})
const writing = ref('')
const EMPTY = { name: '', kind: 'stick', serial: '', contents: '', place: '', since: '', spareSet: false }
const wanted = reactive({ ...EMPTY, bios: false, uefi: true })
const KINDS = [
  { key: 'stick', label: 'stick' },
  { key: 'disc', label: 'disc' },
]
const why = ref('')
const retiring = ref('')

const { act, busy, refusal } = useAction(async (what: string, m?: MediumLine) => {
  const params = { path: { id: m?.id ?? '' } }
  if (what === 'register') {
    const starts = wanted.contents.trim() ? [wanted.bios && 'BIOS', wanted.uefi && 'UEFI'].filter((s): s is string => !!s) : []
    await client.POST('/api/v1/rescue-media', {
      body: {
        name: wanted.name,
        kind: wanted.kind,
        serial: wanted.serial,
        contents: wanted.contents,
        starts,
        place: wanted.place,
        spareSet: wanted.spareSet,
        since: wanted.since || null,
      },
    })
    Object.assign(wanted, EMPTY)
  } else if (what === 'image') {
    await client.POST('/api/v1/rescue-media/{id}/image', { params })
  } else if (what === 'retire') {
    await client.POST('/api/v1/rescue-media/{id}/retire', { params, body: { why: why.value } })
    retiring.value = why.value = ''
  } else
    await client.POST('/api/v1/rescue-media/{id}/tests', {
      params,
      body: { computer: tried[m!.id] ?? '', started: what === 'started', note: '' },
    })
  await page.refetch()
  void changed('today')
})
const refused = tellAtFields(refusal)
</script>

<template>
  <PageHeading title="Rescue media">{{ page.data.value?.sentence }}</PageHeading>
  <p v-if="page.error.value || refused" class="notice" role="alert">{{ refused || sentenceOf(page.error.value) }}</p>
  <p v-if="page.isSuccess.value && !media.length" class="empty">
    No stick or disc is registered. Enter the one you would take on a bad day below, then start a computer with it once.
  </p>
  <article v-for="m in media" :key="m.id" class="medium">
    <div class="head">
      <h2>
        {{ m.name }}
        <span class="soft"
          >{{ m.kind }}{{ m.model ? `, ${m.model}` : '' }}{{ m.serial ? `, serial ${m.serial}` : ''
          }}{{ m.sizeBytes ? `, ${size(m.sizeBytes)}` : '' }}</span
        >
      </h2>
      <p class="does">
        <RouterLink :to="`/rescue-media/${m.id}/label`" class="small">Label</RouterLink
        ><Button
          v-if="mayAct && m.kind === 'stick' && m.contents"
          label="Keep its image"
          size="small"
          severity="secondary"
          outlined
          :disabled="m.writing"
          title="Reads all of it into a file beside Granary's data, from which others can be written"
          @click="act('image', m)"
        /><Button
          v-if="mayAct && m.kind === 'stick'"
          label="Write it…"
          size="small"
          severity="secondary"
          outlined
          @click="writing = writing === m.id ? '' : m.id"
        />
      </p>
    </div>
    <dl>
      <dt>On it</dt>
      <dd>
        {{ m.writing ? 'is being written' : m.contents || 'nothing that starts a computer'
        }}<span v-if="m.starts.length" class="soft">, starts {{ m.starts.join(' and ') }}</span>
      </dd>
      <dt>Lies</dt>
      <dd>{{ m.place || 'place not recorded' }}<span v-if="m.spareSet" class="soft">, part of the spare set</span></dd>
      <dt>Wear</dt>
      <dd>
        written {{ m.writes === 1 ? 'once' : `${m.writes} times` }},
        {{ m.errors === 0 ? 'no errors' : m.errors === 1 ? 'one error' : `${m.errors} errors` }}, in use since {{ formatDate(m.since)
        }}<span v-for="w in m.wear" :key="w" class="brick">. {{ w }}</span>
      </dd>
      <template v-if="m.kind === 'stick' && m.contents">
        <dt>Its own image</dt>
        <dd :title="m.imageDigest && `SHA-256 ${m.imageDigest}`">
          {{
            m.imageAt
              ? `${m.imageFile}, ${formatMoment(m.imageAt)}; write it onto others from their lines`
              : 'none: keep one before it wears out'
          }}
        </dd>
      </template>
      <dt v-if="m.due">To be tried</dt>
      <dd v-if="m.due" class="brick">{{ m.due }}</dd>
    </dl>
    <StickStarts v-if="m.contents && !m.writing" :medium="m" :computers="page.data.value?.computers ?? []" :now="now" />
    <div v-if="mayAct && m.contents" class="does small">
      <SelectField
        :model-value="tried[m.id] ?? ''"
        :label="`Computer tried with ${m.name}`"
        placeholder="choose"
        :options="(page.data.value?.computers ?? []).map((c) => ({ key: c.name, label: c.name }))"
        @update:model-value="tried[m.id] = $event"
      />
      <Button
        label="It started"
        size="small"
        severity="secondary"
        outlined
        :disabled="!tried[m.id]"
        :loading="busy"
        @click="act('started', m)"
      />
      <Button label="It did not start" size="small" severity="secondary" outlined :disabled="!tried[m.id]" @click="act('not', m)" />
      <span v-if="m.tests[0]" class="soft"
        >last: {{ m.tests[0].computer }} {{ m.tests[0].started ? 'started' : 'did not start' }}, {{ formatAge(m.tests[0].at, now) }}</span
      >
      <button type="button" class="figure" @click="retiring = retiring === m.id ? '' : m.id">retire it…</button>
    </div>
    <div v-if="retiring === m.id" class="does">
      <TextField v-model="why" label="Why it is not used any more" /><Button
        label="Take it out of use"
        size="small"
        severity="danger"
        :disabled="!why.trim()"
        @click="act('retire', m)"
      />
    </div>
    <WriteStick v-if="writing === m.id" :medium="m" :files="page.data.value?.files ?? []" @done="writing = ''" />
  </article>
  <p v-if="retired.length" class="small soft gone">Out of use: {{ retired.map((m) => m.name).join(', ') }}.</p>
  <section v-if="uncovered.length">
    <h2 class="section">No medium is known to start these</h2>
    <table>
      <tbody>
        <tr v-for="c in uncovered" :key="c.name">
          <td>
            <b>{{ c.name }}</b>
          </td>
          <td>{{ c.firmware === 'unknown' ? 'firmware not known' : c.firmware.toUpperCase() }}</td>
          <td>{{ c.bootKey ? `${c.bootKey} opens its boot menu` : 'boot-menu key not known' }}</td>
          <td class="small">{{ c.advice }}</td>
        </tr>
      </tbody>
    </table>
  </section>
  <form v-if="mayAct" class="new" @submit.prevent="act('register')">
    <h2 class="section">Enter one in the register</h2>
    <div class="fields">
      <TextField v-model="wanted.name" name="name" label="Name on its label" maxlength="60" />
      <SelectField v-model="wanted.kind" name="kind" label="Stick or disc" :options="KINDS" />
      <TextField v-model="wanted.serial" name="serial" label="Serial" hint="if it has one" />
      <TextField v-model="wanted.contents" name="contents" label="What is on it" hint="with its version" />
      <TextField v-model="wanted.place" name="place" label="Where it lies" />
      <DateField v-model="wanted.since" name="since" label="In use since" hint="empty for today" :max="today()" />
      <div class="ticks">
        <CheckField v-model="wanted.bios" label="starts BIOS" />
        <CheckField v-model="wanted.uefi" label="starts UEFI" />
        <CheckField v-model="wanted.spareSet" label="part of the spare set" />
      </div>
    </div>
    <Button type="submit" label="Register it" size="small" severity="secondary" outlined :disabled="!wanted.name.trim()" />
  </form>
</template>

<style scoped>
.medium { border-top: 1px solid var(--rule); padding: 10px 0 12px; max-width: 980px; }
.head { display: flex; justify-content: space-between; }
h2 { font-size: 20px; margin: 0; }
h2 .soft { font-size: 14px; font-weight: 400; }
dl { display: grid; grid-template-columns: 130px 1fr; margin: 4px 0 8px; }
dt { color: var(--ink-soft); }
dd { margin: 0; }
.does { display: flex; gap: 10px; align-items: end; flex-wrap: wrap; }
.gone { margin: 10px 0 18px; }
.new { margin-top: 22px; max-width: 980px; }
.fields { display: grid; grid-template-columns: repeat(3, 1fr); gap: 10px 22px; align-items: start; margin: 8px 0 12px; }
.ticks { align-self: end; }
</style>
