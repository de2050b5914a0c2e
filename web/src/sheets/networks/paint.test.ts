import { describe, expect, it } from 'vitest'
import { carriedOf, markOf, painted } from './paint'
import { inRanges, portsWords } from './ports'

describe('painting a port', () => {
  const port = carriedOf({ untagged: 10, tagged: '20,30-32' })
  const marks = (is: typeof port) => [10, 20, 31, 40].map((n) => markOf(is, n)).join('|')
  it('shows what it carries', () => {
    expect(marks(port)).toBe('U|T|T|')
    expect(marks(carriedOf({ tagged: 'all', untagged: 20 }))).toBe('T|U|T|T')
    expect(marks(carriedOf({}))).toBe('|||')
  })
  it('has one VLAN untagged, and none in two ways', () => {
    expect(marks(painted(port, 20, 'untagged'))).toBe('|U|T|')
    expect(marks(painted(port, 10, 'tagged'))).toBe('T|T|T|')
    expect(marks(painted(port, 10, 'none'))).toBe('|T|T|')
    expect(marks(painted(port, 40, 'tagged'))).toBe('U|T|T|T')
  })
})

describe('ports in words', () => {
  it('are ranges where they follow on one another', () => {
    expect(inRanges(['1', '2', '3', '5', 's1', 's2', 'mgmt'])).toBe('1-3, 5, s1, s2, mgmt')
    expect(
      portsWords([
        { device: 'core', port: '14' },
        { device: 'core', port: '15' },
        { device: 'core', port: '16' },
        { device: 'hall', port: '7' },
      ]),
    ).toBe('core 14-16; hall 7')
  })
})
