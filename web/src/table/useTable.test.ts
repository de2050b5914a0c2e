import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { effectScope, nextTick, type EffectScope } from 'vue'
import { useTable } from './useTable'

let asked: URL[] = []
let scope: EffectScope
const rows = ['anvil', 'ember', 'core'].map((id) => ({ id, cells: [id] }))

beforeEach(() => {
  asked = []
  scope = effectScope()
  const kept = new Map<string, string>()
  vi.stubGlobal('localStorage', {
    getItem: (k: string) => kept.get(k) ?? null,
    setItem: (k: string, v: string) => kept.set(k, v),
    removeItem: (k: string) => kept.delete(k),
  })
  vi.stubGlobal('fetch', async (path: string) => {
    const url = new URL(path, 'http://lab')
    if (url.pathname === '/api/v1/tables/devices/columns')
      return Response.json({ columns: [{ field: 'name', title: 'name', kind: 'words' }], usual: ['name', 'state'] })
    asked.push(url)
    const groups = url.searchParams.get('group')
      ? [
          { title: 'server', from: 0, rows: 2, sums: [''] },
          { title: 'switch', from: 2, rows: 1, sums: [''] },
        ]
      : [{ title: '', from: 0, rows: 3, sums: [''] }]
    return Response.json({ columns: [], rows, groups, of: 50 })
  })
})
afterEach(() => {
  scope.stop()
  vi.unstubAllGlobals()
})

function open() {
  const table = scope.run(() => useTable('devices'))
  if (!table) throw new Error('the scope has ended')
  return table
}
const answered = () => vi.waitFor(async () => (await nextTick(), asked.length))
const shown = (table: ReturnType<typeof useTable>) =>
  table.lines.value.map((l) => ('group' in l ? `= ${l.group.title} ${l.group.rows}` : `${l.at} ${l.row.id}`))

test('rows stand under the heading of their group, and keep their number', async () => {
  const table = open()
  await vi.waitFor(() => expect(shown(table)).toEqual(['0 anvil', '1 ember', '2 core']))
  table.group.value = 'device_kind'
  await vi.waitFor(() => expect(shown(table)).toEqual(['= server 2', '0 anvil', '1 ember', '= switch 1', '2 core']))
})

test('a column sorts one way, then the other', async () => {
  const table = open()
  await answered()
  expect(asked.at(-1)?.searchParams.get('sort')).toBeNull()
  table.sortOn('weight_kg')
  await nextTick()
  expect(asked.at(-1)?.searchParams.get('sort')).toBe('weight_kg')
  table.sortOn('weight_kg')
  await nextTick()
  expect(asked.at(-1)?.searchParams.get('sort')).toBe('-weight_kg')
})

test('what is typed goes to the server as it is, without the blanks around it', async () => {
  const table = open()
  await answered()
  table.filter.value = ' ram>=64GB "a & b" '
  await nextTick()
  expect(asked.at(-1)?.searchParams.get('filter')).toBe('ram>=64GB "a & b"')
})

test('a kept filter brings its columns, order and group; one without columns leaves them', async () => {
  const table = open()
  await answered()
  await vi.waitFor(() => expect(table.chosen.value).toEqual(['name', 'state']))
  table.show({ id: 'f', name: 'strong', text: 'ram>=64GB', columns: ['name', 'ram'], sort: '-ram', group: 'state' })
  await nextTick()
  expect(Object.fromEntries(asked.at(-1)?.searchParams ?? [])).toMatchObject({
    filter: 'ram>=64GB',
    columns: 'name,ram',
    sort: '-ram',
    group: 'state',
  })
  table.show({ id: 'g', name: 'plain' })
  expect([table.filter.value, table.sort.value, table.group.value]).toEqual(['', 'name', ''])
  expect(table.chosen.value).toEqual(['name', 'ram'])
  table.reset()
  expect(table.chosen.value).toEqual(['name', 'state'])
})
