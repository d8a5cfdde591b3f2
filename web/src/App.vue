<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import PageFrame from './shell/PageFrame.vue'
import TexturePatterns from './look/TexturePatterns.vue'

const route = useRoute()
const open = computed(() => route.meta.open === true)
</script>

<template>
  <TexturePatterns />
  <RouterView v-if="open" />
  <!-- before the first page is known nothing is: who is not signed in gets another -->
  <PageFrame v-else-if="route.matched.length"><RouterView :key="route.path" /></PageFrame>
</template>
