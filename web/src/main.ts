import '@fontsource-variable/source-sans-3'
import '@fontsource-variable/source-serif-4'
import './look/palette.css'
import './look/base.css'
import { VueQueryPlugin } from '@tanstack/vue-query'
import PrimeVue from 'primevue/config'
import { createApp } from 'vue'
import App from './App.vue'
import { preset } from './look/preset'
import { router } from './router'

const app = createApp(App)
  .use(router)
  .use(VueQueryPlugin, { queryClientConfig: { defaultOptions: { queries: { retry: false, staleTime: 5_000 } } } })
  .use(PrimeVue, { theme: { preset, options: { darkModeSelector: '[data-theme=dark]' } } })
app.config.globalProperties.$primevue.config.locale!.firstDayOfWeek = 1 // Monday, as ISO 8601 has it

/** Milliseconds the first page waits for its letters, so that nothing on it moves when they come; they come with the page. */
const FOR_LETTERS = 300
const letters = ["16px 'Source Sans 3 Variable'", "600 20px 'Source Serif 4 Variable'"].map((each) => document.fonts.load(each))
await Promise.race([Promise.allSettled(letters), new Promise((late) => setTimeout(late, FOR_LETTERS))])
app.mount('#app')
