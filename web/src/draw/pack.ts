// How cables lie in a conduit: each as low as it goes, on its wall or on those
// that lie there already.

export interface Disc {
  x: number
  y: number
  r: number
}

/** Where a disc touches two circles round (ax, ay) and (bx, by) that its middle is to be on. */
function meets(ax: number, ay: number, ar: number, bx: number, by: number, br: number): [number, number][] {
  const [dx, dy] = [bx - ax, by - ay]
  const d = Math.hypot(dx, dy)
  if (!d || d > ar + br || d < Math.abs(ar - br)) return []
  const along = (ar * ar - br * br + d * d) / (2 * d)
  const aside = Math.sqrt(Math.max(0, ar * ar - along * along))
  const [mx, my] = [ax + (dx * along) / d, ay + (dy * along) / d]
  return [1, -1].map((s) => [mx - (s * dy * aside) / d, my + (s * dx * aside) / d])
}

const slip = 1e-6

/**
 * Lays discs into a circle round 0, 0 with y downwards, the widest first, and
 * gives them in the order they came in; undefined for one that does not go in.
 */
export function packed(radius: number, radii: number[]): (Disc | undefined)[] {
  const lying: Disc[] = []
  const out = new Array<Disc | undefined>(radii.length)
  const order = radii.map((r, i) => ({ r, i })).sort((a, b) => b.r - a.r)
  for (const { r, i } of order) {
    if (r > radius) continue
    const spots: [number, number][] = [[0, radius - r]]
    lying.forEach((a, n) => {
      spots.push(...meets(0, 0, radius - r, a.x, a.y, a.r + r))
      for (const b of lying.slice(n + 1)) spots.push(...meets(a.x, a.y, a.r + r, b.x, b.y, b.r + r))
    })
    const free = spots.filter(
      ([x, y]) => Math.hypot(x, y) + r <= radius + slip && lying.every((o) => Math.hypot(o.x - x, o.y - y) >= o.r + r - slip),
    )
    const lowest = free.sort((a, b) => b[1] - a[1] || Math.abs(a[0]) - Math.abs(b[0]))[0]
    if (!lowest) continue
    out[i] = { x: lowest[0], y: lowest[1], r }
    lying.push(out[i] as Disc)
  }
  return out
}
