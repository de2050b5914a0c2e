import { expect, test } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Binary, levelstaff } from '../binary'

interface Lab {
  revision: number
  places?: { id: string; name: string }[]
}

/** Renames one place over and over; tells of each change that was acknowledged. */
async function hammer(lab: Binary, hand: number, round: number, acknowledged: (id: string, name: string) => void) {
  const id = `place-${hand}`
  for (let n = 0; ; n++) {
    const name = `hand ${hand} round ${round} change ${n}`
    try {
      const { revision } = await lab.get<Lab>('/api/v1/lab')
      const answer = await lab.post('/api/v1/changes', { base_revision: revision, changes: [{ put: { kind: 'place', id, name } }] })
      if (answer.ok) acknowledged(id, name)
    } catch {
      return // killed
    }
  }
}

// The kill comes after a number of acknowledged changes that differs from
// round to round, while the other hands are anywhere in theirs.
test('killed again and again in the middle of changes, it loses none that was acknowledged', async () => {
  const rounds = 20 // make soak has the 500
  const lab = new Binary()
  const other = mkdtempSync(join(tmpdir(), 'levelstaff-e2e-'))
  const known = new Map<string, string>()
  const order = (name: string) => {
    const [, round, change] = /round (\d+) change (\d+)/.exec(name) ?? []
    return Number(round) * 1e6 + Number(change)
  }
  try {
    for (let round = 0; round < rounds; round++) {
      await lab.start()
      const before = await lab.get<Lab>('/api/v1/lab')
      for (const [id, name] of known) {
        const kept = before.places?.find((p) => p.id === id)?.name ?? ''
        // The last one may have been made without the answer getting through.
        expect(order(kept), `${name} was acknowledged, ${kept} was kept`).toBeGreaterThanOrEqual(order(name))
      }
      let left = 1 + ((round * 7) % 11)
      let hands: Promise<void>[] = []
      await new Promise<void>((enough) => {
        hands = [1, 2, 3].map((hand) =>
          hammer(lab, hand, round, (id, name) => {
            known.set(id, name)
            if (--left === 0) enough()
          }),
        )
      })
      await lab.stop('SIGKILL')
      await Promise.all(hands)
    }
    expect(known.size).toBe(3)
    // Opened once more and closed, the file is whole: restore runs SQLite's
    // integrity_check and Apply over it.
    expect(execFileSync(levelstaff, ['report', 'space', '--data', lab.data], { encoding: 'utf8' })).toContain('no racks')
    expect(execFileSync(levelstaff, ['restore', join(lab.data, 'levelstaff.db'), '--data', other], { encoding: 'utf8' })).toContain(
      'restored from',
    )
  } finally {
    await lab.remove()
    rmSync(other, { recursive: true, force: true })
  }
})
