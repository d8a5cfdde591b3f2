<script setup lang="ts">
import InputText from 'primevue/inputtext'
import { computed, ref, watch } from 'vue'

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
    <InputText v-model="first" type="password" size="small" :placeholder="label" :aria-label="label" autocomplete="off" maxlength="1000" />
    <InputText
      v-if="twice"
      v-model="second"
      type="password"
      size="small"
      placeholder="Once more"
      :aria-label="`${label}, once more`"
      autocomplete="off"
      maxlength="1000"
    />
    <span v-if="differ" class="brick small">These are not the same.</span>
  </span>
</template>

<style scoped>
.secret { display: inline-flex; gap: 8px; align-items: center; flex-wrap: wrap; }
.secret .p-inputtext { width: 150px; }
</style>
