import { shallowRef } from 'vue'
import type { PlanForm } from '../api/types'

/** A plan read from a file, on its way from the list to the plan page; null when none is. */
export const importedPlan = shallowRef<PlanForm | null>(null)
