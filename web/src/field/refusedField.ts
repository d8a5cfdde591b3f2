import { computed, inject, nextTick, onScopeDispose, provide, reactive, type ComputedRef, type InjectionKey, type Ref, watch } from 'vue'
import type { Refusal } from '../api/client'

interface Told {
  refusal: Readonly<Ref<Refusal | null>>
  /** Names of the fields that are on the page. */
  fields: Set<string>
  focus: boolean
}

const TOLD: InjectionKey<Told> = Symbol('what a form was refused for')

/** The refused field's own name; a list's entry stands for its list. */
function fieldOf(refusal: Refusal | null): string {
  return refusal?.field.replace(/\[\d+\].*/, '') ?? ''
}

/**
 * What a form is refused for is told beside the field it names.
 *
 * @param focus whether that field takes the focus; not where a form is read back while it is typed into
 * @returns the sentence to show above the form: that of a refusal which names no field that is on the page; empty for none
 */
export function tellAtFields(refusal: Readonly<Ref<Refusal | null>>, focus = true): ComputedRef<string> {
  const fields = reactive(new Set<string>())
  provide(TOLD, { refusal, fields, focus })
  return computed(() => (refusal.value && !fields.has(fieldOf(refusal.value)) ? refusal.value.sentence : ''))
}

/**
 * What is wrong with a field; empty for nothing.
 *
 * @param name as the server calls it; undefined for a field no refusal names
 * @param own  what the form itself finds wrong with it
 */
export function useFieldError(id: string, name: unknown, own: () => string | undefined): ComputedRef<string> {
  const told = typeof name === 'string' ? inject(TOLD, null) : null
  if (told && typeof name === 'string') {
    told.fields.add(name)
    onScopeDispose(() => told.fields.delete(name))
    watch(told.refusal, (now) => told.focus && now && fieldOf(now) === name && void nextTick(() => document.getElementById(id)?.focus()))
  }
  return computed(() => own() || (told && fieldOf(told.refusal.value) === name ? (told.refusal.value?.sentence ?? '') : ''))
}
