import { expect, test } from 'vitest'
import { dark, light } from './palette'

/** Relative luminance of a colour (WCAG 2.2, "relative luminance"). */
function luminance(hex: string): number {
  const [r = 0, g = 0, b = 0] = [1, 3, 5].map((i) => {
    const c = parseInt(hex.slice(i, i + 2), 16) / 255
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4
  })
  return 0.2126 * r + 0.7152 * g + 0.0722 * b
}
function contrast(a: string, b: string): number {
  const [low = 0, high = 0] = [luminance(a), luminance(b)].sort((x, y) => x - y)
  return (high + 0.05) / (low + 0.05)
}

test('contrast is worked out as WCAG does', () => {
  expect(contrast('#000000', '#FFFFFF')).toBeCloseTo(21)
  expect(contrast('#777777', '#FFFFFF')).toBeCloseTo(4.48, 2)
})

// Checkers of pages look at no text that stands on the drawing's grid.
test('whatever is written can be read on paper and sheet, light and dark', () => {
  for (const { colors } of [light, dark])
    for (const text of ['ink', 'soft', 'red', 'water', 'moss'] as const)
      for (const ground of ['background', 'surface'] as const)
        expect(contrast(colors[text], colors[ground]), `${text} on ${ground}`).toBeGreaterThanOrEqual(4.5)
  for (const { colors } of [light, dark])
    for (const box of ['box', 'boxdim', 'boxdark'] as const) expect(contrast(colors.boxink, colors[box]), box).toBeGreaterThanOrEqual(4.5)
})
