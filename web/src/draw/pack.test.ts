import { describe, expect, it } from 'vitest'
import { packed, type Disc } from './pack'

describe('cables in a conduit', () => {
  it('lie side by side on its wall', () => {
    const [a, b] = packed(10, [5, 5]) as [Disc, Disc]
    // Two of half its width touch each other and the wall: side by side.
    expect(a.x).toBeCloseTo(0)
    expect(a.y).toBeCloseTo(5)
    expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeCloseTo(10)
    expect(packed(10, [5, 5, 5, 5])[3]).toBeUndefined()
    expect(packed(10, [11, 2])).toEqual([undefined, { x: 0, y: 8, r: 2 }])
  })

  it('never lie in each other or in the wall, whatever their widths', () => {
    for (let n = 1; n <= 30; n++) {
      const radii = Array.from({ length: n }, (_, i) => 1.5 + ((i * 7) % 5) * 0.6)
      const lying = packed(25, radii)
      lying.forEach((d, i) => {
        expect(d?.r).toBe(radii[i])
        if (!d) return
        expect(Math.hypot(d.x, d.y) + d.r).toBeLessThanOrEqual(25.0001)
        for (const o of lying.slice(0, i)) if (o) expect(Math.hypot(o.x - d.x, o.y - d.y)).toBeGreaterThanOrEqual(o.r + d.r - 0.0001)
      })
    }
  })
})
