import { AGENTS } from '../query/agents'
import type { Question } from '../query/ask'
import { COMPUTERS } from '../query/computers'
import { DESTINATIONS } from '../query/destinations'
import { SHELF } from '../query/images'
import { JOURNAL, JOURNAL_CHOICES, JOURNAL_DAYS } from '../query/journal'
import { PLANS } from '../query/plans'
import { RESCUE_MEDIA, RESTORATIONS } from '../query/restorations'
import { OUTLOOK, RETENTION } from '../query/retention'
import { RUNS, UNFINISHED, WAITING } from '../query/runs'
import { TARGETS } from '../query/targets'
import { CARDS, COMING_NIGHT, TODAY } from '../query/today'

/** The pages of the index, in its order, with what each asks first. */
export const PAGES: readonly { to: string; name: string; asks: readonly Question<unknown>[] }[] = [
  { to: '/today', name: 'Today', asks: [TODAY] },
  { to: '/computers', name: 'Computers', asks: [COMPUTERS, AGENTS] },
  { to: '/plans', name: 'Plans', asks: [PLANS] },
  { to: '/night', name: 'Night', asks: [COMING_NIGHT] },
  { to: '/runs', name: 'Runs', asks: [RUNS, WAITING, UNFINISHED] },
  { to: '/images', name: 'Images', asks: [SHELF] },
  { to: '/destinations', name: 'Destinations', asks: [DESTINATIONS] },
  { to: '/retention', name: 'Retention', asks: [RETENTION, OUTLOOK] },
  { to: '/restore', name: 'Restore', asks: [CARDS, RESTORATIONS, TARGETS] },
  { to: '/rescue-media', name: 'Rescue media', asks: [RESCUE_MEDIA] },
  { to: '/journal', name: 'Journal', asks: [JOURNAL, JOURNAL_DAYS, JOURNAL_CHOICES] },
]
