<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import TextField from '../field/TextField.vue'
/** A passphrase, typed twice where it makes an image: `model` is empty until both are the same. */
const props = withDefaults(defineProps<{ twice?: boolean; label?: string }>(), { twice: false, label: 'Passphrase' })
const model = defineModel<string>({ required: true })
const first = ref('')
const second = ref('')
const differ = computed(() => props.twice && second.value !== '' && first.value !== second.value)
watch([first, second], () => (model.value = props.twice && first.value !== second.value ? '' : first.value))
</script>

<template>
  <span class="secret">
    <TextField v-model="first" type="password" :label="label" autocomplete="off" maxlength="1000" />
    <TextField
      v-if="twice"
      v-model="second"
      type="password"
      :label="`${label}, once more`"
      autocomplete="off"
      maxlength="1000"
      :error="differ ? 'These are not the same.' : ''"
    />
  </span>
</template>

<style scoped>
.secret { display: inline-flex; gap: 8px; align-items: start; flex-wrap: wrap; }
</style>
