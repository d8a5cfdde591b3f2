import { createRouter, createWebHistory } from 'vue-router'
import { currentSession } from './session/useSession'
import { loadedAnew } from './shell/loadedAnew'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/today' },
    { path: '/cover', component: () => import('./today/CoverPage.vue') },
    { path: '/today', component: () => import('./today/TodayPage.vue') },
    { path: '/sign-in', component: () => import('./session/SignInPage.vue'), meta: { open: true } },
    { path: '/first-day', component: () => import('./firstday/FirstDayPage.vue') },
    { path: '/computers', component: () => import('./computer/ComputersPage.vue') },
    { path: '/computers/new', component: () => import('./computer/NewComputerPage.vue') },
    { path: '/computers/:computerId/card', component: () => import('./card/CardPage.vue'), props: true },
    { path: '/cards', component: () => import('./card/BookletPage.vue') },
    { path: '/settings', component: () => import('./office/SettingsPage.vue') },
    { path: '/accounts', redirect: '/settings#accounts' },
    { path: '/invitation', component: () => import('./account/InvitationPage.vue'), meta: { open: true } },
    { path: '/labels/:destinationId', component: () => import('./label/LabelPage.vue'), props: true },
    { path: '/journal/report', component: () => import('./journal/ReportPage.vue') },
    { path: '/computers/:computerId', component: () => import('./computer/ComputerPage.vue'), props: true },
    { path: '/make-image/:diskId', component: () => import('./capture/CapturePage.vue'), props: true },
    { path: '/import', component: () => import('./import/ImportPage.vue') },
    { path: '/destinations', component: () => import('./destination/DestinationsPage.vue') },
    { path: '/plans', component: () => import('./plan/PlansPage.vue') },
    { path: '/plans/new/:diskId', component: () => import('./plan/NewPlanPage.vue'), props: true },
    { path: '/plans/:planId', component: () => import('./plan/SavedPlanPage.vue'), props: true },
    { path: '/night', component: () => import('./night/NightPage.vue') },
    { path: '/office', redirect: '/settings#hours' },
    { path: '/outbox', component: () => import('./mail/OutboxPage.vue') },
    { path: '/simulated', component: () => import('./switches/SwitchesPage.vue') },
    { path: '/runs', component: () => import('./run/RunsPage.vue') },
    { path: '/images', component: () => import('./image/ImagesPage.vue') },
    { path: '/images/elsewhere', component: () => import('./elsewhere/ElsewherePage.vue') },
    { path: '/images/:imageId/inside', component: () => import('./inside/InsidePage.vue'), props: true },
    { path: '/images/:imageId', component: () => import('./image/ImagePage.vue'), props: true },
    { path: '/retention', component: () => import('./retention/RetentionPage.vue') },
    { path: '/restore', component: () => import('./restore/RestorePage.vue') },
    { path: '/rollouts', component: () => import('./rollout/RolloutPage.vue') },
    { path: '/rescue-media', component: () => import('./rescue/RescuePage.vue') },
    { path: '/rescue-media/:mediumId/label', component: () => import('./rescue/MediumLabel.vue'), props: true },
    { path: '/prepare-drive', component: () => import('./destination/PreparePage.vue') },
    { path: '/journal', component: () => import('./journal/JournalPage.vue') },
    { path: '/:rest(.*)*', redirect: '/computers' },
  ],
})

router.beforeEach(async (to) => {
  const session = await currentSession()
  if (!to.meta.open && !session.name) {
    const { word, ...query } = to.query
    const then = router.resolve({ path: to.path, query }).fullPath
    return { path: '/sign-in', query: word ? { then, word } : { then } }
  }
  return true
})
loadedAnew(router)
