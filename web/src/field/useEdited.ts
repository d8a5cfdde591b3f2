import { computed, ref, type Ref, watch } from 'vue'
import { editsOver } from './editsOver'

/**
 * A form of what is on record, to be edited. What comes anew from the server takes its place only while nothing was changed in it; after
 * that the version it was begun from goes with it, so that a change of somebody else in between is told and not overwritten.
 *
 * @param fresh what is on record now; undefined until it is known
 * @param formOf the part of it that is edited
 */
export function useEdited<R, F extends object>(fresh: () => R | undefined, formOf: (record: R) => F) {
  const form = ref(null) as Ref<F | null>
  const record = ref(null) as Ref<R | null>
  const dirty = computed(() => record.value !== null && JSON.stringify(form.value) !== JSON.stringify(formOf(record.value)))

  const copyOf = (known: R) => JSON.parse(JSON.stringify(formOf(known))) as F

  /** Begins again with what is on record; what was changed is dropped. */
  function begin() {
    const known = fresh()
    if (known === undefined) return
    record.value = known
    form.value = copyOf(known)
  }
  /**
   * Goes on from what somebody else saved: what was changed stays, and all else is as they saved it.
   *
   * @param known as it was just asked for, since a page is told of it only after whoever asked; undefined where it could not be had
   */
  function goOn(known: R | undefined) {
    if (known === undefined || record.value === null || form.value === null) return
    form.value = editsOver(formOf(record.value), form.value, copyOf(known))
    record.value = known
  }
  watch(fresh, () => dirty.value || begin(), { immediate: true })
  return { form, record, dirty, begin, goOn }
}
