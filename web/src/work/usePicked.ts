// What is picked that is no device, rack or place: one record, whose card stands on the
// sheet of its kind.
import { computed, shallowRef, toValue, type MaybeRefOrGetter } from 'vue'
import type { Key } from '../api/client'

const sheetOf: Partial<Record<Key['kind'], string>> = {
  pool: '/storage',
  dataset: '/storage',
  share: '/storage',
  copy: '/storage',
  service: '/services',
  stack: '/services',
  cluster: '/services',
  template: '/services',
}

/** The kinds of such records. */
export const pickedKinds = Object.keys(sheetOf) as Key['kind'][]

/** The record that is picked. */
export const picked = shallowRef<Key>()

/** Picks a record that has its card on such a sheet; false where its kind has not. */
export function pickRecord(key: Key): boolean {
  if (!sheetOf[key.kind]) return false
  picked.value = key
  return true
}

/** What is picked on a sheet, undefined while it is of another one. */
export const pickedOn = (sheet: MaybeRefOrGetter<string>) =>
  computed({
    get: () => (picked.value && sheetOf[picked.value.kind] === toValue(sheet) ? picked.value : undefined),
    set: (key) => (picked.value = key),
  })
