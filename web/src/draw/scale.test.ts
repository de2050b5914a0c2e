import { describe, expect, test } from 'vitest'
import { faceMM, fitText, shareOf, sizeMM, unitMM, unitsBox, partOf, shareAt } from './scale'

const rack = { id: 'r', name: 'R', height_u: 12 }

describe('a rack is drawn as wide as its form', () => {
  test.each([
    [{ ...rack, form: '19in' as const }, 482.6],
    [{ ...rack, form: '10in' as const }, 254],
    [{ ...rack, form: 'own' as const, face_mm: 560 }, 560],
    [{ ...rack, form: 'own' as const, opening_mm: 500 }, 500],
    [rack, 482.6],
  ])('%j', (r, width) => expect(faceMM(r)).toBe(width))
})

describe('units', () => {
  const scale = 0.5
  const u = unitMM * scale

  test('the highest is at the top', () => {
    expect(unitsBox(rack, scale, 10, 20, 12, 1)).toMatchObject({ x: 10, y: 20, h: u })
    expect(unitsBox(rack, scale, 10, 20, 1, 1).y).toBeCloseTo(20 + 11 * u)
  })

  test('a thing is as high as the units it takes, and stands on its lowest', () => {
    const box = unitsBox(rack, scale, 0, 0, 5, 3)
    expect(box.h).toBeCloseTo(3 * u)
    expect(box.y + box.h).toBeCloseTo(8 * u) // four units below it of twelve
  })

  test('a share takes its part of the width', () => {
    const w = 482.6 * scale
    expect(unitsBox(rack, scale, 0, 0, 1, 1, 'right half')).toMatchObject({ x: w / 2, w: w / 2 })
    expect(unitsBox(rack, scale, 0, 0, 1, 1, 'middle third').x).toBeCloseTo(w / 3)
    expect(unitsBox(rack, scale, 0, 0, 1, 1).w).toBe(w)
  })
})

test('the shares of a width meet and do not overlap', () => {
  expect(shareOf('left half')[1]).toBe(shareOf('right half')[0])
  expect(shareOf('left third')[1]).toBe(shareOf('middle third')[0])
  expect(shareOf('middle third')[1]).toBe(shareOf('right third')[0])
  expect(shareOf(undefined)).toEqual([0, 1])
})

test('a size is known only when both sides of it are', () => {
  const d = { id: 'd', device_kind: 'nas' as const, state: 'running' as const }
  expect(sizeMM(d).known).toBe(false)
  expect(sizeMM({ ...d, width_mm: 200 })).toMatchObject({ w: 200, known: false })
  expect(sizeMM({ ...d, width_mm: 200, height_mm: 150 })).toEqual({ w: 200, h: 150, known: true })
  expect(sizeMM({ ...d, width_mm: 200, takes_u: 2 }).h).toBeCloseTo(88.9)
})

test('a name that does not fit is cut, or left out', () => {
  expect(fitText('anvil', 100)).toBe('anvil')
  expect(fitText('everything with a login', 62)).toBe('everythin…')
  expect(fitText('anvil', 10)).toBe('')
})

describe('parts of the width', () => {
  test('a share is a whole, a half or a third', () => {
    expect(
      [undefined, 'whole', 'left half', 'right half', 'left third', 'middle third', 'right third'].map((s) => partOf(s as never)),
    ).toEqual(['whole', 'whole', 'half', 'half', 'third', 'third', 'third'])
  })

  test('the pointer picks the part it is over', () => {
    expect([0, 0.49, 0.51, 1].map((x) => shareAt('half', x))).toEqual(['left half', 'left half', 'right half', 'right half'])
    expect([0.1, 0.5, 0.9].map((x) => shareAt('third', x))).toEqual(['left third', 'middle third', 'right third'])
    expect(shareAt('whole', 0.9)).toBe('whole')
  })
})
