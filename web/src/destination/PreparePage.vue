<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { client } from '../api/client'
import { useAction } from '../api/useAction'
import CheckField from '../field/CheckField.vue'
import ChoiceField from '../field/ChoiceField.vue'
import TextField from '../field/TextField.vue'
import PageHeading from '../frame/PageHeading.vue'
import { fileSystemName } from '../measure/fileSystemName'
import ConfirmOverwrite from '../restore/ConfirmOverwrite.vue'
import TargetTable from '../restore/TargetTable.vue'
import { useDestinations } from '../query/destinations'
import { useFileSystems, useTargets } from '../query/targets'
import { nextName } from './nextName'

/** A drive that is to carry images: what is on it goes, and what it becomes is said beside that before anything is written. */
const router = useRouter()
const targetId = ref('')
const scheme = ref('gpt')
const fileSystem = ref('exfat')
const name = ref('')
const rescue = ref(false)
const targets = useTargets()
const kinds = useFileSystems()
const drives = useDestinations()
const target = computed(() => targets.data.value?.find((t) => t.id === targetId.value))
const RESCUE_BYTES = 8 * 1024 ** 3
const SCHEMES = [
  { key: 'gpt', label: 'GPT', why: 'The usual choice.' },
  { key: 'mbr', label: 'MBR', why: 'Only where an old BIOS has to start from it.' },
]
const options = computed(() => (kinds.data.value ?? []).map((k) => ({ key: k.word, label: fileSystemName(k.word), why: k.why })))
const then = computed(
  () =>
    `Then it has ${scheme.value === 'gpt' ? 'a GPT' : 'an MBR'}, ` +
    (rescue.value ? 'a FAT32 partition of 8 GiB for a rescue system, and in the rest ' : 'and ') +
    `one ${fileSystemName(fileSystem.value)} store for images${name.value.trim() ? `, named ${name.value.trim()}` : ''}.`,
)
// proposed once: a name that is taken out stays out, however often the drives are told anew
watch(
  () => drives.data.value !== undefined,
  (known) => {
    if (known && !name.value) name.value = nextName(drives.data.value!.map((d) => d.name))
  },
  { immediate: true },
)
const {
  act: prepare,
  busy,
  refused,
} = useAction(async (typed: string) => {
  await client.POST('/api/v1/targets/{id}/prepare', {
    params: { path: { id: targetId.value } },
    body: {
      scheme: scheme.value,
      fileSystem: fileSystem.value,
      name: name.value,
      rescueBytes: rescue.value ? RESCUE_BYTES : 0,
      confirmation: typed,
    },
  })
  await router.push('/runs')
})
</script>

<template>
  <PageHeading title="Prepare a drive"
    >A new table, one file system for images, a name. What is on the drive now is shown, and all of it goes.</PageHeading
  >
  <h2 class="section">Which drive</h2>
  <TargetTable v-model="targetId" :targets="targets.data.value ?? []" :kinds="['spare', 'stick']" name="drive" />
  <p v-if="!target" class="soft small plug">Plug the drive in; it shows here in a moment. One that must not be overwritten says why.</p>
  <div v-else class="two">
    <section>
      <h2 class="section">What it becomes</h2>
      <TextField v-model="name" class="name" label="Name on its label" maxlength="11" hint="at most 11 characters" />
      <ChoiceField v-model="fileSystem" label="File system" :options="options" />
      <ChoiceField v-model="scheme" label="Table" :options="SCHEMES" />
      <CheckField v-model="rescue" label="a FAT32 partition of 8 GiB in front, for a rescue system on the same drive" />
      <p>{{ then }}</p>
    </section>
    <ConfirmOverwrite
      :target="target"
      verb="Overwrite and prepare"
      :busy="busy"
      :refused="refused"
      :blocked="!name.trim()"
      @confirmed="prepare"
    />
  </div>
</template>

<style scoped>
.two { display: grid; grid-template-columns: minmax(0, 1fr) minmax(320px, 480px); gap: 28px; align-items: start; margin-top: 18px; }
.two section { display: grid; gap: 12px; }
.two h2, .two p { margin: 0; }
.name { max-width: 220px; }
.plug { margin-top: 10px; }
@media (max-width: 1100px) {
  .two { grid-template-columns: minmax(0, 1fr); }
}
</style>
