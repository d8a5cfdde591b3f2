<script setup lang="ts">
import Button from 'primevue/button'
import { nextTick, watch } from 'vue'
import { useRoute } from 'vue-router'
import AccountsSection from '../account/AccountsSection.vue'
import { sentenceOf } from '../api/client'
import { tellAtFields } from '../field/refusedField'
import PageHeading from '../frame/PageHeading.vue'
import RefusedNotice from '../frame/RefusedNotice.vue'
import { useUnsaved } from '../frame/useUnsaved'
import MailSection from '../mail/MailSection.vue'
import { useSession } from '../session/useSession'
import { usePageKeys } from '../keys/pageKeys'
import DatabaseSection from './DatabaseSection.vue'
import HoursSection from './HoursSection.vue'
import ImagesSection from './ImagesSection.vue'
import OfficeSection from './OfficeSection.vue'
import RehearsalSection from './RehearsalSection.vue'
import { useSettings } from './useSettings'

/** What holds for the whole office, in sections that are saved together. */
const SECTIONS = [
  { id: 'office', name: 'Office' },
  { id: 'hours', name: 'Hours' },
  { id: 'images', name: 'Images' },
  { id: 'mail', name: 'Mail' },
  { id: 'rehearsals', name: 'Rehearsals' },
  { id: 'database', name: 'Granary’s database' },
  { id: 'accounts', name: 'Accounts' },
]
const { mayAct } = useSession()
const route = useRoute()
const { office, hours, mail, rehearsals, dirty, read, unread, saving, said, keepMine } = useSettings()
const { act: save, busy, refusal, conflict } = saving
const above = tellAtFields(refusal)
useUnsaved(() => dirty.value, 'the settings')

watch([() => route.hash, read], ([hash]) => nextTick(() => hash && document.querySelector(hash)?.scrollIntoView()), { immediate: true })
usePageKeys(['Enter', 'save what is changed, from any field'])
</script>

<template>
  <PageHeading title="Settings"
    >What holds for the whole office. <RouterLink to="/first-day">The first day</RouterLink> leads a new one.
    <template #action
      ><Button
        :label="dirty || !read ? 'Save the settings' : 'Saved'"
        :disabled="!mayAct || !dirty"
        :title="mayAct ? '' : 'This account can only look'"
        :loading="busy"
        @click="save"
    /></template>
  </PageHeading>
  <p v-if="unread" class="notice" role="alert">{{ sentenceOf(unread) }}</p>
  <RefusedNotice :sentence="above" :conflict="conflict" @keep="keepMine" />
  <p role="status" class="moss">{{ said }}</p>
  <div class="settings">
    <nav aria-label="Sections of the settings">
      <RouterLink v-for="s in SECTIONS" :key="s.id" :to="`#${s.id}`" :class="{ here: s.id === (route.hash.slice(1) || 'office') }">{{
        s.name
      }}</RouterLink>
    </nav>
    <div>
      <form v-if="read" @submit.prevent="save">
        <fieldset :disabled="!mayAct">
          <OfficeSection id="office" v-model="office.form.value!" />
          <HoursSection id="hours" v-model="hours.form.value!" :zones="hours.record.value!.zones" />
          <ImagesSection
            id="images"
            v-model="office.form.value!"
            v-model:encrypt-leaving="hours.form.value!.encryptLeaving"
            :policy="office.record.value!.policy"
          />
          <MailSection id="mail" v-model="mail.form.value!" v-model:password="mail.password.value" :known="mail.record.value!" />
          <RehearsalSection id="rehearsals" v-model="rehearsals.form.value!.days" />
          <DatabaseSection id="database" v-model="office.form.value!.copiesTo" />
        </fieldset>
        <button type="submit" hidden :disabled="!mayAct || !dirty" />
      </form>
      <AccountsSection id="accounts" />
    </div>
  </div>
</template>

<style scoped>
.settings { display: grid; grid-template-columns: 140px minmax(0, 900px); gap: 34px; }
nav { position: sticky; top: 0; align-self: start; display: grid; gap: 2px; }
nav a { color: var(--ink-soft); text-decoration: none; padding: 3px 0 3px 10px; border-left: 2px solid var(--rule); font-size: 13.5px; }
nav a:hover, nav a.here { color: var(--ink); border-left-color: var(--grain); }
fieldset { border: 0; padding: 0; margin: 0; }
.settings :deep(h2.section) { margin: 0 0 8px; }
.settings :deep(section) { padding-bottom: 30px; }
.settings :deep(.line) { display: flex; gap: 14px 20px; flex-wrap: wrap; align-items: start; margin-bottom: 10px; }
/* a button stands beside the box of a field, below its label */
.settings :deep(.line > .p-button) { margin-top: 19px; }
@media (max-width: 1100px) {
  .settings { grid-template-columns: 1fr; gap: 12px; }
  nav { display: flex; flex-wrap: wrap; gap: 2px 14px; background: var(--paper); z-index: 1; padding: 4px 0; }
  nav a { border: 0; padding: 0; }
}
</style>
