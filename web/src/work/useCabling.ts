// What can be done with cables, whichever drawing asks for it.
import { shallowRef, watch, type ShallowRef } from 'vue'
import { api } from '../api/address'
import { latest } from '../api/latest'
import { get, type Device, type Schemas } from '../api/client'
import { attempt, say, useLab } from '../lab/useLab'
import { isCordless } from '../lab/trails'
import { title } from '../lab/words'
import { useActions } from './useActions'
import { useWork } from './work'

export type End = Schemas['End']
export type Jack = Schemas['Jack']
export type Cable = Schemas['Cable']

export const sameEnd = (a?: End | null, b?: End | null): boolean =>
  !!a && !!b && a.device_id === b.device_id && a.port === b.port && !!a.rear === !!b.rear

type At = Pick<End, 'port' | 'rear'>

/** What a port is known by among those of a drawing. */
export const keyOfJack = (device: string, at: At): string => `${device}/${at.port}${at.rear ? '/rear' : ''}`
export const endOf = (device: string, at: At): End => ({ device_id: device, port: at.port, ...(at.rear ? { rear: true } : {}) })

/** A port as one speaks of it: its name, and what is in it or what may go there. */
export function jackWords(device: Device, j: Jack, partner?: Schemas['Partner']): string {
  const what = j.name ? `${j.port}, ${j.name}` : j.port
  const state = partner?.why
    ? `no: ${partner.why}`
    : partner
      ? 'possible'
      : j.broken
        ? 'broken'
        : j.cable_id
          ? `to ${j.to ?? 'unknown end'}`
          : j.reserved_for
            ? `reserved for ${j.reserved_for}`
            : 'free'
  return `${title(device)} ${what}${j.rear ? ' rear' : ''}: ${state}${j.note ? `. ${j.note}` : ''}`
}

/** Where a cable from a port could go, by port. */
async function askPartners(from: End, among: string[]): Promise<Map<string, Schemas['Partner']>> {
  const answer = await get(api('/api/v1/partners', { ...from, among }))
  return new Map(answer.partners.map((p) => [keyOfJack(p.device_id, p), p]))
}

/** Which ports of some devices the cable that is being led fits, and why not the others; nothing while none is led. */
export function usePartners(among: () => string[]): ShallowRef<Map<string, Schemas['Partner']> | undefined> {
  const work = useWork()
  const { lab } = useLab()
  const may = shallowRef<Map<string, Schemas['Partner']>>()
  const { ask } = latest()
  watch(
    [() => work.leading, () => work.port, () => among().join(), () => lab.value?.revision],
    () => {
      const from = work.leading && among().length ? work.port : undefined
      return ask(
        async () => from && (await askPartners(from, among())),
        (answer) => (may.value = answer),
      )
    },
    { immediate: true },
  )
  return may
}

export function useCabling() {
  const { lab, send, put, add, remove } = useLab()
  const { change } = useActions()
  const work = useWork()

  const cableAt = (e?: End): Cable | undefined =>
    e ? [...(lab.value?.cables.values() ?? [])].find((c) => !isCordless(c.cable_kind) && (sameEnd(c.a, e) || sameEnd(c.b, e))) : undefined

  /** Leads a cable from the port that is picked to another one: the one that is in it already, or a new one. */
  async function leadTo(to: End, kind?: Schemas['CableKind']) {
    const from = work.port
    if (!from) return
    const is = cableAt(from)
    const record = is
      ? { ...is, ...(is.a && is.b ? (sameEnd(is.a, from) ? { b: to } : { a: to }) : is.a ? { b: to } : { a: to }) }
      : { a: from, b: to, state: 'in_use', cable_kind: kind }
    if (await change([add({ kind: 'cable', ...record })])) work.leading = false
  }

  const unplug = (cable: Cable) => change([remove({ kind: 'cable', id: cable.id })])
  /** Takes one end out; the other one stays where it is. */
  const open = (cable: Cable, end: End) =>
    change([add({ kind: 'cable', ...cable, ...(sameEnd(cable.a, end) ? { a: undefined } : { b: undefined }) })])
  const swap = (a: End, b: End) => attempt(() => send('/api/v1/swaps', { a, b }))

  /** Says what sets a port apart from its group, as of a revision; the server forgets what is '' or false. */
  async function markPort(end: End, more: Partial<Schemas['PortMark']>, base = lab.value?.revision ?? 0) {
    const device = lab.value?.devices.get(end.device_id)
    if (!device) return
    const marks = device.port_marks ?? []
    const is: Schemas['PortMark'] = { ...marks.find((m) => m.port === end.port), ...more, port: end.port }
    const changes = [put({ ...device, port_marks: [...marks.filter((m) => m.port !== end.port), is] })]
    await send('/api/v1/changes', { base_revision: base, changes })
  }

  /** A port as one says it: core 3. */
  function endWords(e?: End): string {
    const device = lab.value?.devices.get(e?.device_id ?? '')
    return device && e ? `${title(device)} ${e.port}${e.rear ? ' rear' : ''}` : ''
  }

  /** Where the other end is of the cable that is led, if it is one that is plugged in already. */
  function ledFrom(): End | undefined {
    const cable = cableAt(work.port)
    return (sameEnd(cable?.a, work.port) ? cable?.b : cable?.a) ?? undefined
  }
  /** Lets the cable that is led change places with the one that is where it was to go. */
  async function swapLed() {
    const from = ledFrom()
    if (from && work.taken && (await swap(from, work.taken.end))) work.leading = false
  }

  /** Picks a cable: the port that one end of it is in. */
  function pickCable(cable?: Cable) {
    const end = cable?.a ?? cable?.b
    if (!end) return
    work.pick(end.device_id)
    work.port = end
  }

  /** Picks a port, or leads a cable to it while one is being led. */
  async function pickJack(device: string, jack: Jack, partner?: Schemas['Partner']) {
    const end = endOf(device, jack)
    if (!work.leading || sameEnd(work.port, end)) {
      work.leading = false
      work.port = end
      return
    }
    work.taken = partner?.why && jack.cable_id ? { end, why: partner.why } : undefined
    if (partner?.why) say(`It does not go there: ${partner.why}.`, true)
    else await leadTo(end, partner?.cable_kind)
  }

  return { cableAt, leadTo, unplug, open, swap, markPort, endWords, ledFrom, swapLed, pickJack, pickCable }
}
