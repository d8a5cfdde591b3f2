<script setup lang="ts">
/** Why a form was not saved; nothing while it was not refused. After a change of somebody else, what was typed can take its place. */
defineProps<{ sentence: string; conflict: boolean }>()
const emit = defineEmits<{ keep: [] }>()
</script>

<template>
  <p v-if="sentence" class="notice" role="alert">
    {{ sentence }} <button v-if="conflict" type="button" class="figure" @click="emit('keep')">Keep my edits</button>
  </p>
</template>
