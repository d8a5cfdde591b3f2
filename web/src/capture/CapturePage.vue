<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { client, sentenceOf } from '../api/client'
import { useAction } from '../api/useAction'
import DiskStrip from '../computer/DiskStrip.vue'
import PageHeading from '../frame/PageHeading.vue'
import { useMargin } from '../frame/useMargin'
import { useUnits } from '../measure/useUnits'
import { formatRange } from '../measure/times'
import { useWidth } from '../measure/useWidth'
import { useSession } from '../session/useSession'
import PassphraseField from '../run/PassphraseField.vue'
import { AFTERWARDS } from '../computer/afterwards'
import ChoiceField from '../field/ChoiceField.vue'
import { tellAtFields } from '../field/refusedField'
import TextField from '../field/TextField.vue'
import FolderField from '../folder/FolderField.vue'
import { toAddresses } from '../mail/addresses'
import CompressionTable from './CompressionTable.vue'
import DestinationBins from './DestinationBins.vue'
import SamplingNote from './SamplingNote.vue'
import StageBars from './StageBars.vue'
import { CHOICES } from './storageChoices'
import StoringFields from './StoringFields.vue'
import { useProspects } from '../query/estimates'
import { useDisk } from '../query/computers'

const props = defineProps<{ diskId: string }>()
const router = useRouter()
const { size, between } = useUnits()
const margin = useMargin()
const { mayAct } = useSession()
const box = ref<HTMLElement | null>(null)
const width = useWidth(box)

const choice = ref('balanced')
const allBlocks = ref(false)
const keepSwap = ref(false)
const without = ref<number[]>([])
const splitBytes = ref<number | null>(null)
const encrypted = ref(false)
const passphrase = ref('')
const destination = ref('')
const afterwards = ref('nothing')
const comment = ref('')
const folder = ref('')
const mail = ref('')
const name = ref('')
const named = ref(false)

const disk = useDisk(() => props.diskId)
const estimates = useProspects({
  diskId: () => props.diskId,
  choices: CHOICES,
  splitBytes,
  allBlocks,
  keepSwap,
  without,
  encrypted,
  byClock: false,
})
const chosenEstimate = computed(() => estimates.value[CHOICES.findIndex((c) => c.key === choice.value)])
const prospect = computed(() => chosenEstimate.value?.data)
const target = computed(() => prospect.value?.destinations.find((d) => d.id === destination.value))
const first = computed(() => target.value ?? prospect.value?.destinations.find((d) => d.rank === 1))

watch(prospect, (now) => {
  if (!now) return
  if (!named.value) name.value = now.suggestedName
  if (destination.value && !now.destinations.find((d) => d.id === destination.value)?.fit) destination.value = ''
  margin.refresh(now.working)
})

const parts = computed(() => (disk.data.value?.partitions ?? []).filter((p) => !p.container))
const lacking = computed(() => parts.value.filter((p) => without.value.includes(p.number)).map((p) => p.name || p.type))
const inWords = (names: string[]) => names.join(', ').replace(/, ([^,]*)$/, ' and $1')

const leftOut = computed(() => (disk.data.value?.partitions ?? []).flatMap((p) => p.leftOut).reduce((sum, l) => sum + l.bytes, 0))
const title = computed(() =>
  prospect.value ? `${prospect.value.computer}, ${prospect.value.disk}` : disk.data.value ? disk.data.value.name : 'Make an image',
)
const fits = computed(() => {
  const all = prospect.value?.destinations ?? []
  const fit = all.filter((d) => d.fit).map((d) => d.name)
  const short = all.filter((d) => !d.fit && !d.itself && d.roomAfterBytes < 0).map((d) => `${d.name} is ${size(-d.roomAfterBytes)} short`)
  return `${fit.length ? `Fits ${fit.join(', ')}` : 'Fits nowhere'}${short.length ? `; ${short.join(', ')}` : ''}.`
})

const {
  act: start,
  busy: starting,
  refusal,
} = useAction(async () => {
  const c = CHOICES.find((one) => one.key === choice.value)!
  await client.POST('/api/v1/runs', {
    body: {
      diskId: props.diskId,
      destinationId: destination.value,
      name: name.value,
      codec: c.codec,
      level: c.level,
      splitBytes: splitBytes.value,
      allBlocks: allBlocks.value,
      keepSwap: keepSwap.value,
      without: without.value,
      passphrase: encrypted.value ? passphrase.value : null,
      afterwards: afterwards.value,
      comment: comment.value,
      folder: folder.value,
      mailTo: toAddresses(mail.value),
    },
  })
  await router.push('/runs')
})
const refused = tellAtFields(refusal)
</script>

<template>
  <PageHeading :title="title">
    <template v-if="prospect">
      About
      <button type="button" class="figure" @click="margin.open(prospect.working)">
        <b>{{ size(prospect.likelyBytes) }}</b></button
      >{{ between(prospect.lowBytes, prospect.highBytes) }}.
      {{ fits }}
    </template>
    <SamplingNote v-else-if="!chosenEstimate?.error" :disk-id="diskId" />
    <template #action>
      <Button
        label="Make this image"
        :disabled="!target || !mayAct || (encrypted && !passphrase) || (parts.length > 0 && lacking.length === parts.length)"
        :loading="starting"
        @click="start"
        :title="
          mayAct
            ? !target
              ? 'Choose a destination first'
              : encrypted && !passphrase
                ? 'Enter the passphrase twice first'
                : ''
            : 'This account can only look'
        "
      />
    </template>
  </PageHeading>
  <p v-if="refused" class="notice" role="alert">{{ refused }}</p>
  <p v-if="chosenEstimate?.error" class="notice" role="alert">{{ sentenceOf(chosenEstimate.error) }}</p>
  <p v-if="disk.error.value" class="notice" role="alert">
    {{ sentenceOf(disk.error.value) }} <RouterLink to="/computers">Back to the computers</RouterLink>
  </p>

  <div ref="box">
    <template v-if="disk.data.value && width">
      <div class="row">
        <h2 class="section">What is read</h2>
        <span class="soft small"
          >{{ disk.data.value.model }}, {{ size(disk.data.value.sizeBytes) }}, serial {{ disk.data.value.serial || 'none' }},
          {{ disk.data.value.scheme.toUpperCase() }}, {{ disk.data.value.sectorBytes }}-byte sectors</span
        >
      </div>
      <DiskStrip v-model:without="without" :disk="disk.data.value" :width="width" :height="36" labels :switchable="mayAct" />
      <p v-if="lacking.length" class="notice" role="status">
        <template v-if="lacking.length === parts.length">Nothing is read. Choose at least one partition.</template>
        <template v-else
          >The image will not hold {{ inWords(lacking) }}. Its page, its card and the cover of {{ disk.data.value.name }} say so for ever:
          it counts as partly, and a whole image is still wanted.</template
        >
      </p>
    </template>
  </div>

  <p v-if="target?.rollBack" class="notice" role="status">
    {{ target.name }} lies on this disk. A quick roll-back image undoes a change that went wrong, and is lost with the disk: it counts for
    nothing else. To go back to it, copy it to another drive and restore it from there.
  </p>

  <div class="columns">
    <section>
      <h2 class="section">Compression, and what it costs</h2>
      <CompressionTable v-model="choice" :choices="CHOICES" :estimates="estimates" :first="first" />
      <h2 class="section">The rest</h2>
      <div class="rest">
        <StoringFields
          v-model:all-blocks="allBlocks"
          v-model:keep-swap="keepSwap"
          v-model:split-bytes="splitBytes"
          v-model:encrypted="encrypted"
          :left-out-bytes="leftOut"
        >
          <template v-if="encrypted"
            ><PassphraseField v-model="passphrase" twice />
            <p class="small soft">It is kept nowhere. Write it down and keep it apart from the drive; without it the image is lost.</p>
          </template>
        </StoringFields>
        <TextField v-model="name" name="name" label="Name" fluid maxlength="100" @input="named = true" />
        <FolderField v-model="folder" label="Folder" :disk-id="diskId" where="As the office chose:" />
        <TextField
          v-model="comment"
          name="comment"
          label="Comment"
          fluid
          maxlength="2000"
          :hint="`kept with the image and in it${encrypted ? ', readable without the passphrase' : ''}`"
        />
        <TextField
          v-model="mail"
          name="mailTo"
          label="Mail to"
          hint="when it has ended, well or not; several with commas between"
          fluid
          spellcheck="false"
        />
        <ChoiceField v-model="afterwards" label="Then" :options="AFTERWARDS" />
        <p class="small soft">Every digest and every frame is read back afterwards.</p>
      </div>
    </section>
    <section>
      <div class="row">
        <h2 class="section">Where it fits</h2>
        <span class="soft small">one scale; ticks: 2 % or 1 GB kept in reserve</span>
      </div>
      <DestinationBins
        v-if="prospect || !chosenEstimate?.error"
        v-model="destination"
        :destinations="prospect?.destinations"
        :low-bytes="prospect?.lowBytes ?? 0"
        :high-bytes="prospect?.highBytes ?? 0"
        :may-act="mayAct"
        @show="margin.open"
      />
    </section>
  </div>

  <section v-if="first" class="how-long">
    <div class="row">
      <h2 class="section">How long, on {{ first.name }}</h2>
      <span class="soft small"
        ><button type="button" class="figure" @click="margin.open(first.time.working)">
          {{ formatRange(first.time.lowSeconds, first.time.highSeconds) }}
        </button>
        in all; the slowest step sets the pace</span
      >
    </div>
    <p v-if="first.route" class="route">{{ first.route }}</p>
    <StageBars :time="first.time" />
  </section>
</template>

<style scoped>
.row { display: flex; justify-content: space-between; align-items: baseline; gap: 16px; }
.columns { display: grid; grid-template-columns: minmax(330px, 5fr) minmax(360px, 6fr); gap: 30px; margin-top: 8px; }
.rest { display: grid; gap: 10px; }
.how-long { margin-top: 10px; border-top: 1px solid var(--rule); padding-top: 8px; }
.route { margin: 0 0 4px; }
.how-long h2.section.section { margin-bottom: 4px; }
</style>
