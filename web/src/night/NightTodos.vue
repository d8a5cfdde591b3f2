<script setup lang="ts">
import { computed } from 'vue'
import type { Night } from '../api/types'
import { formatClock } from '../measure/times'

const props = defineProps<{ todos: Night['todos']; zone: string; mayAct: boolean }>()
const emit = defineEmits<{ tick: [planId: string, item: string, done: boolean] }>()
/** What has its time first, in order; then what each plan wants done before. */
const timed = computed(() => props.todos.filter((t) => t.at).sort((a, b) => a.at!.localeCompare(b.at!)))
const byPlan = computed(() => {
  const plans = new Map<string, Night['todos']>()
  for (const todo of props.todos.filter((t) => !t.at)) plans.set(todo.plan, [...(plans.get(todo.plan) ?? []), todo])
  return [...plans.entries()]
})
const left = computed(() => props.todos.filter((t) => !t.done).length)
</script>

<template>
  <section>
    <h2 class="section">
      Before you go home<span class="soft">{{ left ? `, ${left} to do` : ', all done' }}</span>
    </h2>
    <table>
      <tbody>
        <tr v-for="t in timed" :key="t.planId + t.item">
          <td>
            <label
              ><input type="checkbox" :checked="!!t.done" :disabled="!mayAct" @change="emit('tick', t.planId, t.item, !t.done)" />
              <span :class="{ soft: t.done }">{{ t.item }}</span></label
            >
          </td>
          <td class="number">{{ t.done || formatClock(t.at!, zone) }}</td>
        </tr>
      </tbody>
    </table>
    <details v-for="[plan, items] in byPlan" :key="plan">
      <summary>{{ plan }}: {{ items.filter((i) => i.done).length }} of {{ items.length }} done</summary>
      <p v-for="t in items" :key="t.item">
        <label
          ><input type="checkbox" :checked="!!t.done" :disabled="!mayAct" @change="emit('tick', t.planId, t.item, !t.done)" />
          <span :class="{ soft: t.done }">{{ t.item }}</span></label
        >
        <span class="soft">{{ t.done }}</span>
      </p>
    </details>
    <p v-if="!todos.length" class="soft">Nothing needs a person.</p>
  </section>
</template>

<style scoped>
input { accent-color: var(--grain); }
label { cursor: pointer; }
details { font-size: 13.5px; border-bottom: 1px solid var(--rule-soft); padding: 4px 0; }
summary { cursor: pointer; }
details p { display: flex; justify-content: space-between; gap: 12px; padding: 2px 0 2px 14px; }
</style>
