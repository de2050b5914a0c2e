// What can be done with cables, whichever drawing asks for it.
import { get, type Schemas } from '../../api/client'
import { attempt, say, useLab } from '../../lab/useLab'
import { useActions } from '../../work/useActions'
import { useWork } from '../../work/work'

export type End = Schemas['End']
export type Jack = Schemas['Jack']
export type Cable = Schemas['Cable']

export const sameEnd = (a?: End | null, b?: End | null): boolean => !!a && !!b && a.device_id === b.device_id && a.port === b.port && !!a.rear === !!b.rear

/** A port as one speaks of it: "core 3", "PP1 3 rear". */
export const endKey = (e: End): string => `${e.device_id}/${e.port}${e.rear ? '/rear' : ''}`

export function useCabling() {
  const { lab, send, add, remove } = useLab()
  const { change } = useActions()
  const work = useWork()

  const cableAt = (e?: End): Cable | undefined => (e ? [...(lab.value?.cables.values() ?? [])].find((c) => c.cable_kind !== 'wireless' && (sameEnd(c.a, e) || sameEnd(c.b, e))) : undefined)

  /** Where a cable from a port could go, by port. */
  async function partners(from: End, among: string[]): Promise<Map<string, Schemas['Partner']>> {
    const query = [`device_id=${encodeURIComponent(from.device_id)}`, `port=${encodeURIComponent(from.port)}`, ...(from.rear ? ['rear=true'] : []), ...among.map((id) => `among=${encodeURIComponent(id)}`)]
    const answer = await get<Schemas['Partners']>(`/api/v1/partners?${query.join('&')}`)
    return new Map(answer.partners.map((p) => [endKey(p), p]))
  }

  /** Leads a cable from the port that is picked to another one: the one that is in it already, or a new one. */
  async function leadTo(to: End, kind?: Schemas['CableKind']) {
    const from = work.port
    if (!from) return
    const is = cableAt(from)
    const record = is ? { ...is, ...(is.a && is.b ? (sameEnd(is.a, from) ? { b: to } : { a: to }) : is.a ? { b: to } : { a: to }) } : { a: from, b: to, state: 'in_use', cable_kind: kind }
    if (await change([add({ kind: 'cable', ...record })])) work.leading = false
  }

  const unplug = (cable: Cable) => change([remove({ kind: 'cable', id: cable.id })])
  /** Takes one end out; the other one stays where it is. */
  const open = (cable: Cable, end: End) => change([add({ kind: 'cable', ...cable, ...(sameEnd(cable.a, end) ? { a: undefined } : { b: undefined }) })])
  const swap = (a: End, b: End) => attempt(() => send('/api/v1/swaps', { a, b }))

  /** Picks a port, or leads a cable to it while one is being led. */
  async function pickJack(device: string, jack: Jack, partner?: Schemas['Partner']) {
    const end: End = { device_id: device, port: jack.port, ...(jack.rear ? { rear: true } : {}) }
    if (!work.leading || sameEnd(work.port, end)) {
      work.leading = false
      work.port = end
      return
    }
    if (partner?.why) say(`It does not go there: ${partner.why}.`, true)
    else await leadTo(end, partner?.cable_kind)
  }

  return { cableAt, partners, leadTo, unplug, open, swap, pickJack }
}
