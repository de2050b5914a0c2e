import { expect, test } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { join } from 'node:path'
import { Binary } from '../binary'

interface Lab {
  revision: number
  places: { id: string; name: string }[]
}

/** Renames one place over and over from several hands; remembers what was acknowledged. */
async function hammer(lab: Binary, known: Map<string, string>, hand: number, round: number, ended: () => boolean) {
  const id = `place-${hand}`
  for (let n = 0; !ended(); n++) {
    const name = `hand ${hand} round ${round} change ${n}`
    try {
      const { revision } = await lab.get<Lab>('/api/v1/lab')
      const answer = await lab.post('/api/v1/changes', { base_revision: revision, changes: [{ put: { kind: 'place', id, name } }] })
      if (answer.ok) known.set(id, name)
    } catch {
      return // killed
    }
  }
}

test('killed in the middle of changes, it loses none that was acknowledged', async () => {
  const lab = new Binary()
  const known = new Map<string, string>()
  try {
    for (let round = 0; round < 8; round++) {
      await lab.start()
      const before = await lab.get<Lab>('/api/v1/lab')
      for (const [id, name] of known) {
        const kept = before.places.find((p) => p.id === id)?.name ?? ''
        // The last one may have been made without the answer getting through.
        const change = (s: string) => Number(/change (\d+)/.exec(s)?.[1])
        const at = (s: string) => Number(/round (\d+)/.exec(s)?.[1])
        expect(at(kept) > at(name) || (at(kept) === at(name) && change(kept) >= change(name)), `${name} was acknowledged, ${kept} was kept`).toBe(true)
      }
      let ended = false
      const hands = [1, 2, 3].map((hand) => hammer(lab, known, hand, round, () => ended))
      // Kill after a number of acknowledged changes, not after a time.
      await expect.poll(async () => (await lab.get<Lab>('/api/v1/lab')).revision, { intervals: [5] }).toBeGreaterThan(before.revision + 6 + round * 5)
      await lab.stop('SIGKILL')
      ended = true
      await Promise.all(hands)
    }
    expect(known.size).toBe(3)
    const check = execFileSync(join(import.meta.dirname, '..', '..', 'bin', 'levelstaff'), ['report', 'space', '--data', lab.data], { encoding: 'utf8' })
    expect(check).toContain('RACK')
  } finally {
    await lab.remove()
  }
})
