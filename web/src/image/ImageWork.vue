<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { answer, client } from '../api/client'
import type { ImageDetail } from '../api/types'
import { useAction } from '../api/useAction'
import CheckField from '../field/CheckField.vue'
import SelectField from '../field/SelectField.vue'
import AreaField from '../field/AreaField.vue'
import { useUnits } from '../measure/useUnits'
import PassphraseField from '../run/PassphraseField.vue'
import { useAnswered, useChanged } from '../query/ask'
import { useDestinations } from '../query/destinations'

/** What can be done with one copy of an image: prove it further, copy it, repair it, sign and comment it. */
const props = defineProps<{ detail: ImageDetail }>()
const { size } = useUnits()
const router = useRouter()
const changed = useChanged()
const answered = useAnswered()
const image = computed(() => props.detail.image)
const level = ref('readable')
const secret = ref('')
const destination = ref('')
const lookedAt = ref('')
const note = ref(image.value.note)
const needsSecret = computed(() => image.value.encrypted && (level.value === 'readable' || level.value === 'rehearsed'))
const sound = computed(() => props.detail.copies.filter((c) => !c.damaged && c.proof >= 2))
const destinations = useDestinations()
const targets = computed(() =>
  (destinations.data.value ?? []).filter(
    (d) => d.attached && d.id !== image.value.destinationId && !props.detail.copies.some((c) => c.destinationId === d.id),
  ),
)
const LEVELS = [
  { word: 'complete', costs: 'a moment' },
  { word: 'sound', costs: 'reads all of it' },
  { word: 'readable', costs: 'reads and decodes all of it' },
  { word: 'rehearsed', costs: 'restores it to a scratch file and compares' },
]

/** What other tools made has no index of chunks to rehearse with. */
const levels = computed(() => (image.value.format === 'granary' ? LEVELS : LEVELS.slice(0, 3)))

const disc = ref('DVD+R')
const iso = ref(false)
const DISCS = [
  { key: 'DVD+R', label: 'DVD+R, 4.7 GB each' },
  { key: 'DVD-R', label: 'DVD-R, 4.7 GB each' },
  { key: 'BD-R', label: 'BD-R, 25 GB each' },
]
const { act, busy, refused } = useAction(async (what: 'check' | 'copy' | 'discs' | 'sign' | 'note' | { repairFrom: string }) => {
  const id = image.value.id
  if (what === 'check')
    await client.POST('/api/v1/runs/checks', {
      body: { imageId: id, level: level.value, passphrase: needsSecret.value ? secret.value : null },
    })
  else if (what === 'copy') await client.POST('/api/v1/runs/copies', { body: { imageId: id, toDestinationId: destination.value } })
  else if (what === 'discs')
    await client.POST('/api/v1/images/{id}/discs', { params: { path: { id } }, body: { disc: disc.value, iso: iso.value } })
  else if (what === 'sign' || what === 'note') {
    const fresh =
      what === 'sign'
        ? client.POST('/api/v1/images/{id}/booted', { params: { path: { id } }, body: { lookedAt: lookedAt.value } })
        : client.PUT('/api/v1/images/{id}/note', { params: { path: { id } }, body: { text: note.value } })
    answered(['image', id], await answer(fresh))
    void changed('images')
    lookedAt.value = ''
    return
  } else
    await client.POST('/api/v1/runs/repairs', { body: { imageId: id, fromImageId: what.repairFrom, passphrase: secret.value || null } })
  await router.push('/runs')
})
</script>

<template>
  <section class="work">
    <p v-if="refused" class="notice" role="alert">{{ refused }}</p>
    <template v-if="image.damaged">
      <h2 class="section">Repair it</h2>
      <p v-for="c in sound" :key="c.id">
        <Button
          :label="`Repair it from ${c.destination}`"
          size="small"
          :loading="busy"
          :disabled="image.encrypted && !secret"
          @click="act({ repairFrom: c.id })"
        />
        <span class="small soft"> its copy there is {{ c.proven }}; only what differs is written, and it is proven again</span>
      </p>
      <p v-if="!sound.length" class="small">
        There is no sound copy. Capture the disk again; the undamaged parts of this one can still be restored.
      </p>
    </template>
    <template v-if="image.format !== 'unseen'">
      <h2 class="section">Prove it further</h2>
      <p>
        <label v-for="l in levels" :key="l.word" :title="l.costs"
          ><input v-model="level" type="radio" name="level" :value="l.word" /> {{ l.word }}</label
        >
      </p>
      <div class="does">
        <PassphraseField v-if="image.encrypted" v-model="secret" />
        <Button
          label="Check this image"
          size="small"
          :loading="busy"
          :disabled="needsSecret && !secret"
          :title="needsSecret && !secret ? 'Enter its passphrase first; sound needs none' : ''"
          @click="act('check')"
        />
        <span class="small soft">{{ LEVELS.find((l) => l.word === level)?.costs }}</span>
      </div>
    </template>
    <template v-if="image.format === 'granary'">
      <h2 class="section">Another copy</h2>
      <p v-for="c in detail.copies" :key="c.id" class="small">
        <RouterLink :to="`/images/${c.id}`">On {{ c.destination }}</RouterLink
        >, {{ c.damaged ? 'damaged' : c.proven || 'not proven' }}
      </p>
      <div v-if="targets.length" class="does">
        <SelectField
          v-model="destination"
          label="Copy to"
          placeholder="choose a destination"
          :options="targets.map((d) => ({ key: d.id, label: `${d.name}, ${size(d.freeBytes)} free` }))"
        />
        <Button
          label="Copy it there"
          size="small"
          severity="secondary"
          outlined
          :disabled="!destination"
          :loading="busy"
          @click="act('copy')"
        />
      </div>
      <p v-else-if="!detail.copies.length" class="small soft">No other destination is attached.</p>
      <h2 class="section">On discs</h2>
      <div class="does">
        <SelectField v-model="disc" label="Blank discs" :options="DISCS" />
        <CheckField v-model="iso" label="as .iso files too" />
        <Button label="Make disc folders" size="small" severity="secondary" outlined :loading="busy" @click="act('discs')" />
      </div>
      <p class="small soft">
        A folder and a label for each disc, on {{ image.destination }}; its parts must each fit onto one. Where the drive can, nothing takes
        its room twice.
      </p>
    </template>
    <p v-else class="small soft">
      {{
        image.format === 'other'
          ? 'Made with other tools: copy its files with them, and add the copy as well.'
          : 'When its files are at hand,'
      }}
      <RouterLink to="/images/elsewhere">{{ image.format === 'other' ? 'Add it' : 'add them' }}</RouterLink>.
    </p>
    <h2 class="section">Booted and looked at</h2>
    <div class="does">
      <AreaField
        v-model="lookedAt"
        class="text"
        rows="1"
        maxlength="2000"
        label="What you looked at"
        hint="like log-in, files, programs, sizes"
      />
      <Button label="Sign it" size="small" severity="secondary" outlined :disabled="!lookedAt.trim()" @click="act('sign')" />
    </div>
    <div class="does">
      <AreaField
        v-model="note"
        class="text"
        rows="1"
        maxlength="2000"
        label="Comment"
        hint="like before the upgrade; with the new drawings"
      />
      <Button label="Keep it" size="small" severity="secondary" outlined :disabled="note.trim() === image.note" @click="act('note')" />
    </div>
  </section>
</template>

<style scoped>
.work h2.section.section { margin: 16px 0 6px; }
.work h2.section.section:first-child { margin-top: 0; }
label { margin-right: 12px; cursor: pointer; }
input { accent-color: var(--grain); margin: 0 3px 0 0; vertical-align: -1px; }
.does { display: flex; gap: 10px; align-items: end; flex-wrap: wrap; margin: 6px 0; }
.text { flex: 1; min-width: 200px; }
</style>
