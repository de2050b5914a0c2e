// Leads from wherever a record is named to the thing that it is about.
import { useRouter } from 'vue-router'
import type { Key } from '../api/client'
import { useLab } from '../lab/useLab'
import { useCabling } from './useCabling'
import { useWork } from './work'

export function useShow() {
  const { lab } = useLab()
  const work = useWork()
  const router = useRouter()
  const { pickCable } = useCabling()

  /** Picks what a record is about: a part's device, the first thing that has a sheet. */
  function pick({ kind, id }: Key) {
    if (kind === 'device') work.pick(id)
    if (kind === 'part') work.pick(lab.value?.parts.get(id)?.device_id ?? '')
    if (kind === 'spec_sheet') work.pick([...(lab.value?.devices.values() ?? [])].find((d) => d.sheet_id === id)?.id ?? '')
    if (kind === 'cable') pickCable(lab.value?.cables.get(id))
    if (kind === 'rack') work.pickRack(id)
    if (kind === 'place') work.pickPlace(id)
    work.cardOpen = true
  }
  /** Picks it and goes to the sheet where its card is. */
  function show(key: Key) {
    pick(key)
    void router.push(key.kind === 'run' ? '/cabling?view=runs' : key.kind === 'cable' ? '/cabling' : '/rack')
  }
  return { pick, show }
}
