<script setup lang="ts">
import Dialog from 'primevue/dialog'

const visible = defineModel<boolean>('visible', { required: true })
const KEYS: [string, string][] = [
  ['Ctrl K', 'find a computer, disk, image or page'],
  ['/', 'filter the table in view'],
  ['↑ ↓ Enter', 'move in a table, open a row'],
  ['Alt 1 … 9', 'open a page of the index'],
  ['Alt 0', 'open the journal, its last page'],
  ['Esc', 'close the margin, or what is open'],
  ['?', 'this list'],
]
</script>

<template>
  <Dialog v-model:visible="visible" modal header="Keys" :style="{ width: '420px' }" dismissable-mask>
    <table>
      <tbody>
        <tr v-for="[key, what] in KEYS" :key="key">
          <td>
            <b>{{ key }}</b>
          </td>
          <td>{{ what }}</td>
        </tr>
      </tbody>
    </table>
  </Dialog>
</template>
