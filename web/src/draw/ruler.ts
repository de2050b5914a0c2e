// The geometry of a subnet's ruler: where the names above its graduations go, and what
// an address on it is.

export interface Named {
  at: number
  text: string
}
export interface Label extends Named {
  /** 0 right above the tape, 1 above that. */
  level: number
  x: number
  /** It goes leftwards from its tick, where there is no room to the right. */
  end: boolean
}

/** About how wide a name is, in pixels of 12 px condensed letters. */
export const wide = (text: string): number => 4 + text.length * 6.2

/** Names beside one another on two levels; one that has no room on either is left out. */
export function labels(names: Named[], step: number, width: number): Label[] {
  const taken = [-Infinity, -Infinity]
  return names.flatMap((n) => {
    const x = (n.at + 0.5) * step
    const long = wide(n.text)
    const end = x + long > width
    const from = end ? x - long : x - 4
    const level = taken.findIndex((until) => from >= until)
    if (level < 0) return []
    taken[level] = from + long + 4
    return [{ ...n, level, x, end }]
  })
}

const count = (address: string): number => address.split('.').reduce((all, part) => all * 256 + Number(part), 0)

/** Whether an IPv4 address is in a range of one of the lengths, where a graduation is an address. */
export const handedOut = (lengths: { from: string; handed_out: number[][] }[], address: string): boolean =>
  lengths.some((l) => {
    const at = count(address) - count(l.from)
    return l.handed_out.some(([from = 0, to = -1]) => from <= at && at <= to)
  })

/** The address so many behind another one, of IPv4. */
export function plus(address: string, n: number): string {
  const sum = count(address) + n
  return [24, 16, 8, 0].map((bits) => Math.floor(sum / 2 ** bits) % 256).join('.')
}

/** The last part of an address, as the scale writes it. */
export const tail = (address: string): string => `.${address.split('.').at(-1) ?? ''}`
