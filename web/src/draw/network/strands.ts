// Lines beside a line: strands of a bundle that has corners.

export interface Point {
  x: number
  y: number
}

const round = (v: number) => Math.round(v * 10) / 10

/** Points that follow on one another at another place, without those in a straight line. */
export function corners(points: Point[]): Point[] {
  return points.filter((p, i) => {
    const [a, b] = [points[i - 1], points[i + 1]]
    if (a && a.x === p.x && a.y === p.y) return false
    return !a || !b || (b.x - p.x) * (p.y - a.y) !== (b.y - p.y) * (p.x - a.x)
  })
}

/** The line that runs beside another one at a distance, to its right where that is above zero. */
export function beside(points: Point[], by: number): Point[] {
  const line = corners(points)
  const normals = line.slice(1).map((p, i) => {
    const from = line[i] ?? p
    const long = Math.hypot(p.x - from.x, p.y - from.y) || 1
    return { x: -(p.y - from.y) / long, y: (p.x - from.x) / long }
  })
  return line.map((p, i) => {
    const before = normals[i - 1] ?? normals[i] ?? { x: 0, y: 0 }
    const after = normals[i] ?? before
    // Where two pieces meet, as far out as both ask for.
    const meet = 1 + before.x * after.x + before.y * after.y
    const m = meet > 0.1 ? by / meet : by / 2
    return { x: round(p.x + (before.x + after.x) * m), y: round(p.y + (before.y + after.y) * m) }
  })
}

export const pathOf = (points: Point[]): string => points.map((p, i) => `${i ? 'L' : 'M'}${round(p.x)} ${round(p.y)}`).join('')

/** The middle of the longest piece of a line, where something can be written. */
export function middle(points: Point[]): Point & { upright: boolean } {
  let best = { x: 0, y: 0, upright: true, long: -1 }
  points.slice(1).forEach((p, i) => {
    const a = points[i] ?? p
    const long = Math.hypot(p.x - a.x, p.y - a.y)
    if (long > best.long) best = { x: (p.x + a.x) / 2, y: (p.y + a.y) / 2, upright: Math.abs(p.y - a.y) > Math.abs(p.x - a.x), long }
  })
  return best
}
