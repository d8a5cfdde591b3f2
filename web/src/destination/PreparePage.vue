<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import TextField from '../field/TextField.vue'
import { client } from '../api/client'
import { useAction } from '../api/useAction'
import PageHeading from '../frame/PageHeading.vue'
import ConfirmOverwrite from '../restore/ConfirmOverwrite.vue'
import TargetTable from '../restore/TargetTable.vue'
import { useFileSystems, useTargets } from '../query/targets'

const router = useRouter()
const targetId = ref('')
const scheme = ref('gpt')
const fileSystem = ref('exfat')
const name = ref('')
const rescue = ref(false)
const targets = useTargets()
const kinds = useFileSystems()
const target = computed(() => targets.data.value?.find((t) => t.id === targetId.value))
const RESCUE_BYTES = 8 * 1024 ** 3
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
    >A new table, one store for images, a name. What is on the drive now is shown, and all of it goes.</PageHeading
  >
  <h2 class="section">Which drive</h2>
  <TargetTable v-model="targetId" :targets="targets.data.value ?? []" :kinds="['spare', 'stick']" name="drive" />
  <template v-if="target">
    <h2 class="section">How</h2>
    <p>
      <label><input v-model="scheme" type="radio" value="gpt" /> GPT, the usual choice</label><br /><label
        ><input v-model="scheme" type="radio" value="mbr" /> MBR, only where an old BIOS has to start from it</label
      >
    </p>
    <p>
      <template v-for="k in kinds.data.value" :key="k.word"
        ><label
          ><input v-model="fileSystem" type="radio" :value="k.word" /> <b>{{ k.word }}</b> <span class="soft">{{ k.why }}</span></label
        ><br
      /></template>
    </p>
    <p>
      <label><input v-model="rescue" type="checkbox" /> a FAT32 partition of 8 GiB in front, for a rescue system on the same drive</label>
    </p>
    <p>
      <TextField label="Name on its label" v-model="name" maxlength="11" hint="like PEG-4" />
    </p>
    <ConfirmOverwrite
      class="ask"
      :target="target"
      verb="Overwrite and prepare"
      :busy="busy"
      :refused="refused"
      :blocked="!name.trim()"
      @confirmed="prepare"
    />
  </template>
</template>

<style scoped>
.ask { max-width: 460px; margin-top: 14px; }
p { margin: 8px 0; }
input { accent-color: var(--grain); }
</style>
