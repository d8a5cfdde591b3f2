<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useNow } from '../measure/useNow'
import { formatClock, formatMoment, formatRange } from '../measure/times'
import { useLiveRuns } from '../run/useLiveRuns'
import SignInAgain from '../session/SignInAgain.vue'
import { useSession } from '../session/useSession'
import FindBox from './FindBox.vue'
import LeaveDialog from '../frame/LeaveDialog.vue'
import KeyList from '../frame/KeyList.vue'
import { useKeys } from '../frame/useKeys'
import { useMargin } from '../frame/useMargin'
import { useTheme } from '../look/useTheme'
import { officeReading, useUnits } from '../measure/useUnits'
import WorkingMargin from '../frame/WorkingMargin.vue'
import { useOffice } from '../query/office'
import { PAGES } from './pages'
import { usePagesAhead } from './usePagesAhead'
import { useSettled } from './useSettled'

const route = useRoute()
const router = useRouter()
const { working, close } = useMargin()
const { reading, toggle: toggleUnits } = useUnits()
const { theme, toggle: toggleTheme } = useTheme()
const { session, signOut } = useSession()
const { runs, connection } = useLiveRuns()
const now = useNow(15_000)
const office = useOffice()
const finding = ref(false)
const listingKeys = ref(false)
const settled = useSettled(() => route.path)
usePagesAhead()

const lostAt = ref(0)
watch(connection, (is) => (lostAt.value = is === 'lost' ? now.value : 0))
watch(() => route.path, close)
watch(
  () => office.data.value?.units,
  (units) => units && officeReading(units),
)
useKeys({
  find: () => (finding.value = true),
  keys: () => (listingKeys.value = true),
  escape: close,
  go: (index) => {
    const entry = PAGES.at(index)
    if (entry) void router.push(entry.to)
  },
})

const running = computed(() => {
  const first = runs.value[0]
  if (!first) return 'Nothing running'
  const more = runs.value.length > 1 ? `, and ${runs.value.length - 1} more` : ''
  return `${first.imageName}: ${first.stage}, ${formatRange(first.lowSecondsLeft, first.highSecondsLeft)} left${more}`
})

async function leave() {
  await signOut()
  await router.push('/sign-in')
}
</script>

<template>
  <div class="frame" :class="{ open: working }">
    <nav aria-label="Index" :class="{ coming: office.isPending.value }">
      <RouterLink to="/" class="brand serif">Granary</RouterLink>
      <p class="office">{{ office.data.value?.name }}</p>
      <ul>
        <li v-for="entry in PAGES" :key="entry.to">
          <RouterLink :to="entry.to" :class="{ here: route.path.startsWith(entry.to) }">
            {{ entry.name }}<span v-if="entry.name === 'Runs' && runs.length" class="count">{{ runs.length }}</span>
          </RouterLink>
        </li>
      </ul>
      <ul class="low">
        <li>
          <button type="button" @click="finding = true">Find <kbd>Ctrl K</kbd></button>
        </li>
        <li><RouterLink to="/outbox" :class="{ here: route.path === '/outbox' }">Outbox</RouterLink></li>
        <li v-if="office.data.value?.simulation">
          <RouterLink to="/simulated" :class="{ here: route.path === '/simulated' }">Simulated devices</RouterLink>
        </li>
        <li>
          <RouterLink to="/settings" :class="{ here: route.path === '/settings' }">Settings</RouterLink>
        </li>
        <li>
          <button type="button" @click="toggleTheme">{{ theme === 'light' ? 'Dark' : 'Light' }} paper</button>
        </li>
        <li>
          <button type="button" @click="leave" :title="`Signed in as ${session?.name}, ${session?.role}`">
            Sign out {{ session?.name }}
          </button>
        </li>
      </ul>
    </nav>
    <main :class="{ coming: !settled }"><slot /></main>
    <WorkingMargin v-if="working" :working="working" @close="close" />
    <footer>
      <span>{{ formatMoment(new Date(now).toISOString()) }}</span>
      <button type="button" @click="toggleUnits" title="Switch between decimal and binary sizes">
        {{ reading === 'decimal' ? 'Sizes as on the label (GB = 1 000 000 000 bytes)' : 'Sizes in binary (GiB = 1 073 741 824 bytes)' }}
      </button>
      <span v-if="lostAt" class="lost" role="alert"
        >No answer from Granary since {{ formatClock(new Date(lostAt).toISOString()) }}. What is shown is from then; this page tries again
        by itself.</span
      >
      <RouterLink v-else to="/runs" class="running">{{ running }}</RouterLink>
      <span class="simulation">{{ office.data.value?.simulation }}</span>
    </footer>
  </div>
  <SignInAgain />
  <FindBox v-model:visible="finding" />
  <LeaveDialog />
  <KeyList v-model:visible="listingKeys" />
</template>

<style scoped>
.frame { display: grid; grid-template: 1fr 29px / 184px 1fr; height: 100vh; }
.frame.open { grid-template-columns: 184px 1fr 296px; }
nav {
  background: var(--wash);
  border-right: 1px solid var(--rule);
  display: flex;
  flex-direction: column;
  padding-top: 20px;
  overflow-y: auto;
}
.brand { font-size: 23px; padding: 0 18px; color: var(--ink); text-decoration: none; }
.office { font-size: 13px; color: var(--ink-soft); padding: 2px 18px 16px; }
ul { list-style: none; margin: 0; padding: 0; }
.low { margin-top: auto; padding-bottom: 12px; }
li a,
li button {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  width: 100%;
  padding: 4.5px 18px;
  color: var(--ink);
  text-decoration: none;
  font: inherit;
  background: none;
  border: 0;
  border-left: 3px solid transparent;
  text-align: left;
  cursor: pointer;
}
li a:hover, li button:hover { background: var(--rule-soft); }
li a.here { background: var(--paper); border-left-color: var(--grain); font-weight: 600; }
.count { font-size: 13px; color: var(--ink-soft); font-weight: 400; }
kbd { font: inherit; font-size: 12px; color: var(--ink-soft); }
main { padding: 18px 26px 24px; overflow-y: auto; min-width: 0; }
main.coming > :deep(:not(header)), nav.coming > * { visibility: hidden; }
footer {
  grid-column: 1 / -1;
  display: flex;
  gap: 22px;
  align-items: center;
  padding: 0 18px;
  background: var(--wash);
  border-top: 1px solid var(--rule);
  font-size: 12.5px;
  color: var(--ink-soft);
  white-space: nowrap;
  overflow: hidden;
}
footer button, footer a { font: inherit; color: inherit; background: none; border: 0; padding: 0; cursor: pointer; text-decoration: none; }
.lost { color: var(--brick); white-space: nowrap; }
.simulation { margin-left: auto; overflow: hidden; text-overflow: ellipsis; }
</style>
