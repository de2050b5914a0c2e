import { describe, expect, it } from 'vitest'
import { ageWords, bothWords, lostWords, monthWords, sizeWords } from './useStorage'

describe('amounts of data', () => {
  it('are written as makers sell them and as systems show them', () => {
    expect(sizeWords(17.3e12)).toBe('17.3 TB')
    expect(sizeWords(180e9)).toBe('180 GB')
    expect(sizeWords(999.9e9)).toBe('1 TB')
    expect(sizeWords(0)).toBe('0 B')
    expect(sizeWords(undefined)).toBe('?')
    expect(bothWords(24e12)).toBe('24 TB = 21.8 TiB')
  })
})

describe('ages and losses', () => {
  it('are in hours for two days and in days after', () => {
    expect([ageWords(9), ageWords(47), ageWords(31 * 24)]).toEqual(['9 h', '47 h', '31 d'])
    expect(lostWords('all')).toBe('all of it')
    expect(lostWords({ words: '9 h' })).toBe('9 h')
    expect(monthWords('2028-08')).toBe('August 2028')
  })
})
