<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import RefusedNotice from '../frame/RefusedNotice.vue'

/** A plan read back in a sentence before it is saved, with what speaks against it. */
defineProps<{
  sentence: string
  problems: readonly { sentence: string; refused: boolean }[]
  /** Why it cannot be read back; empty when it can. */
  unreadable: string
  refused: string
  /** Whether somebody else saved it meanwhile. */
  conflict: boolean
  busy: boolean
}>()
const emit = defineEmits<{ save: []; edit: []; keep: [] }>()
const box = ref<HTMLElement | null>(null)

/** Into sight, with the keyboard at its first button. */
function come() {
  box.value?.scrollIntoView({ block: 'nearest' })
  box.value?.querySelector('button')?.focus()
}
defineExpose({ come })
</script>

<template>
  <section ref="box" class="review" aria-label="Review before saving">
    <RefusedNotice :sentence="refused" :conflict="conflict" @keep="emit('keep')" />
    <p v-if="unreadable" class="notice" role="alert">{{ unreadable }}</p>
    <p v-else class="sentence">{{ sentence || 'Reading it back…' }}</p>
    <ul v-if="problems.length">
      <li v-for="p in problems" :key="p.sentence" :class="{ brick: p.refused }">{{ p.sentence }}</li>
    </ul>
    <div class="ends">
      <Button label="Save it like this" :loading="busy" :disabled="!!unreadable || problems.some((p) => p.refused)" @click="emit('save')" />
      <Button label="Go on editing" severity="secondary" outlined @click="emit('edit')" />
    </div>
  </section>
</template>

<style scoped>
.review { border-left: 3px solid var(--grain); background: var(--sheet); padding: 12px 16px; margin-bottom: 16px; }
.sentence { font-size: 16px; max-width: 900px; }
.review ul { margin: 8px 0 0; padding-left: 18px; }
.ends { display: flex; gap: 10px; margin-top: 12px; }
</style>
