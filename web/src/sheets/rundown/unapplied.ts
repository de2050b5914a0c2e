// Text that was typed and not applied yet is kept in the browser, for each lab
// and each way of looking at it: another sheet, a reload or a closed window
// loses nothing.
import { api } from '../../api/address'
import { get } from '../../api/client'

/** A text, and what it was written from. */
export interface Unapplied {
  /** The revision of the lab, and its text then. */
  base: number
  written: string
  text: string
  /** When it was last typed in, in ms since 1970. */
  at: number
}

/** What tells one lab from another at the same address: when its first change was made; '' while there is none. */
export async function born(revision: number): Promise<string> {
  if (!revision) return ''
  return (await get(api('/api/v1/logbook/{revision}', { revision: 1 }))).entry.at
}

const key = (lab: string, view: string) => `levelstaff.unapplied ${lab} ${view}`

export function unapplied(lab: string, view: string): Unapplied | undefined {
  const is = localStorage.getItem(key(lab, view))
  return is ? (JSON.parse(is) as Unapplied) : undefined
}

/** Keeps a text, or forgets what was kept; false where the browser has no room for it. */
export function keep(lab: string, view: string, what?: Unapplied): boolean {
  try {
    if (what) localStorage.setItem(key(lab, view), JSON.stringify(what))
    else localStorage.removeItem(key(lab, view))
    return true
  } catch (e) {
    if (!(e instanceof DOMException)) throw e
    return false
  }
}
