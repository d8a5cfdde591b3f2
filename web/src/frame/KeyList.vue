<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { computed } from 'vue'
import { keysHere, type KeyLine } from '../keys/pageKeys'

const visible = defineModel<boolean>('visible', { required: true })
const EVERYWHERE: readonly KeyLine[] = [
  ['Ctrl K', 'find a computer, disk, image or page'],
  ['/', 'filter the table in view'],
  ['↑ ↓ Enter', 'move in a table, open a row'],
  ['Alt 1 … 9', 'open a page of the index'],
  ['Alt 0', 'open the journal, its last page'],
  ['Esc', 'close the margin, or what is open'],
  ['?', 'this list'],
]
const groups = computed(() => [
  { name: 'On this page', keys: keysHere() },
  { name: 'Everywhere', keys: EVERYWHERE },
])
</script>

<template>
  <Dialog v-model:visible="visible" modal header="Keys" :style="{ width: '420px' }" dismissable-mask>
    <template v-for="group in groups" :key="group.name">
      <table v-if="group.keys.length">
        <caption>
          {{
            group.name
          }}
        </caption>
        <tbody>
          <tr v-for="[key, what] in group.keys" :key="key + what">
            <td class="key">
              <b>{{ key }}</b>
            </td>
            <td>{{ what }}</td>
          </tr>
        </tbody>
      </table>
    </template>
  </Dialog>
</template>

<style scoped>
caption { text-align: left; font-size: 13px; color: var(--ink-soft); padding: 8px 0 2px; }
.key { width: 110px; white-space: nowrap; }
</style>
