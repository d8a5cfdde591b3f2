<script setup lang="ts">
import type { NightMisfit } from '../api/types'
import type { Wish } from './wish'

defineProps<{ misfits: NightMisfit[]; mayAct: boolean }>()
const emit = defineEmits<{ wish: [planId: string, what: Wish] }>()

/** Help that is done by one choice on this page; the rest is for a person to arrange. */
function help(misfit: NightMisfit) {
  if (misfit.help?.kind === 'other-drive') emit('wish', misfit.planId, { driveId: misfit.help.target })
  if (misfit.help?.kind === 'leave-out') emit('wish', misfit.help.target, { leftOut: true })
}
</script>

<template>
  <section>
    <h2 class="section">Does not fit</h2>
    <p v-if="!misfits.length" class="soft small">Everything that is due fits.</p>
    <div v-for="m in misfits" :key="m.planId" class="misfit">
      <p class="why">{{ m.why }}</p>
      <p v-if="m.help">
        {{ m.help.sentence }}
        <button
          v-if="mayAct && (m.help.kind === 'other-drive' || m.help.kind === 'leave-out')"
          type="button"
          class="figure slate"
          @click="help(m)"
        >
          {{ m.help.kind === 'other-drive' ? 'Send it there' : 'Leave that one out' }}
        </button>
      </p>
      <p v-else class="soft">No single change would make it fit. <RouterLink :to="`/plans/${m.planId}`">Look at its plan</RouterLink></p>
    </div>
  </section>
</template>

<style scoped>
.misfit { border-bottom: 1px solid var(--rule-soft); padding: 4px 0 8px; font-size: 13.5px; }
.misfit p { margin-bottom: 3px; }
.why { color: var(--brick); }
.slate { color: var(--slate); }
</style>
