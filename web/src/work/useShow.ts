// Leads from wherever a record is named to the thing that it is about: the
// address says what is shown, so that Back leads back, and a link anywhere.
import { useRouter } from 'vue-router'
import type { Key, Schemas } from '../api/client'
import { useLab } from '../lab/useLab'
import { useAddresses } from './useAddresses'
import { useCabling } from './useCabling'
import { pickRecord } from './usePicked'
import { useWork } from './work'

type About = Pick<Schemas['About'], 'to'>

export function useShow() {
  const { lab } = useLab()
  const work = useWork()
  const router = useRouter()
  const { pickCable } = useCabling()
  const { show: showSubnet } = useAddresses()

  /** Picks what a record is about: a part's device, the first thing that has a sheet. */
  function pick({ kind, id }: Key) {
    if (kind === 'device') work.pick(id)
    if (kind === 'part') work.pick(lab.value?.parts.get(id)?.device_id ?? '')
    if (kind === 'spec_sheet') work.pick([...(lab.value?.devices.values() ?? [])].find((d) => d.sheet_id === id)?.id ?? '')
    if (kind === 'subnet') showSubnet(id)
    if (kind === 'cable') pickCable(lab.value?.cables.get(id))
    if (pickRecord({ kind, id })) work.deviceId = ''
    if (kind === 'rack') work.pickRack(id)
    if (kind === 'place') work.pickPlace(id)
    work.cardOpen = true
  }
  /** Goes to the page that shows it. */
  const show = (about: About) => router.push(about.to)
  const showDevice = (id: string) => router.push(`/rack?device=${id}`)
  return { pick, show, showDevice }
}
