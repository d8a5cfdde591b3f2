import type { Noun } from './ask'

/** What the server tells has changed. */
export type Told = 'runs' | 'destinations' | 'computers' | 'targets'

/** What is to be asked again then. What a person is typing into is not among it: a form is read once. */
const ASKED: Record<Told, readonly Noun[]> = {
  runs: [
    'runs',
    'waiting',
    'unfinished',
    'today',
    'images',
    'image',
    'rehearsals',
    'kept',
    'retention',
    'outlook',
    'restorations',
    'rollouts',
    'rescue-media',
    'destinations',
    'targets',
    'estimate',
    'night',
    'mail',
    'journal',
    'computers',
    'first-day',
  ],
  destinations: ['destinations', 'estimate', 'unfinished', 'first-day'],
  computers: ['agents', 'computers', 'computer', 'disk', 'today', 'first-day'],
  targets: ['targets'],
}

/** Each once; nothing for a word of a newer server. */
export function askedAgain(told: readonly Told[]): Noun[] {
  return [...new Set(told.flatMap((what) => ASKED[what] ?? []))]
}
