// The spec sheets there are: those of the lab, and those that come with the
// program, which are asked for once.
import { computed, shallowRef } from 'vue'
import { api } from '../api/address'
import { get, type Schemas } from '../api/client'
import { useLab } from './useLab'
import { kindWords } from './words'

export type Sheet = Schemas['SpecSheet']

const generic = shallowRef<Sheet[]>([])
let asked: Promise<void> | undefined

async function ask() {
  generic.value = await get(api('/api/v1/generic_sheets'))
}

/** Whether a sheet has all of the words, in its name, maker, model or kind. */
export function hasWords(sheet: Sheet, words: string): boolean {
  const said = `${sheet.name} ${sheet.maker ?? ''} ${sheet.model ?? ''} ${kindWords(sheet.device_kind)}`.toLowerCase()
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((w) => said.includes(w))
}

export function useSheets() {
  const { lab } = useLab()
  asked ??= ask().catch((e: unknown) => {
    asked = undefined // the next one asks again
    throw e
  })
  const own = computed(() =>
    [...(lab.value?.spec_sheets.values() ?? [])].sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true })),
  )
  const isOwn = (sheet: Sheet) => !!lab.value?.spec_sheets.has(sheet.id)
  return { own, generic, isOwn }
}
