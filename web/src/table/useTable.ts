// The table of one kind of record: its filter, columns, order and groups, and
// the rows that the server makes of them.
import { useLocalStorage } from '@vueuse/core'
import { computed, ref } from 'vue'
import { api, type PathOf } from '../api/address'
import { get, type Schemas } from '../api/client'
import { lists } from '../api/core.gen'
import { useReport } from '../lab/useReport'

/** The lists that have a table. */
export type List = PathOf<'get'> extends infer P ? (P extends `/api/v1/tables/${infer L}/columns` ? L : never) : never

/** A line of the table: a group's heading or a row. */
export type Line = { group: Schemas['GroupSum'] } | { row: Schemas['TableRow']; at: number }

/** Guests are devices that have a table of their own. */
const kindOf = (list: List) =>
  list === 'guests' ? 'device' : ((Object.keys(lists) as (keyof typeof lists)[]).find((k) => lists[k] === list) as Schemas['RecordKind'])

export function useTable(list: List) {
  const filter = ref('')
  /** Those chosen, or the usual ones. */
  const picked = useLocalStorage<string[]>(`levelstaff-columns-${list}`, [])
  const usual = ref<string[]>([])
  const columns = ref<Schemas['Column'][]>([])
  const sort = ref('')
  const group = ref('')
  void get(api(`/api/v1/tables/${list}/columns`)).then((answer) => {
    columns.value = answer.columns
    usual.value = answer.usual
  })
  const chosen = computed(() => (picked.value.length ? picked.value : usual.value))
  /** What it is called comes first, in the order of names unless another one is chosen. */
  const order = computed(() => sort.value || (columns.value[0]?.field ?? ''))

  const { data, wrong } = useReport(() =>
    api(`/api/v1/tables/${list}`, { columns: picked.value.join(','), sort: sort.value, group: group.value, filter: filter.value.trim() }),
  )
  const rows = computed(() => data.value?.rows ?? [])
  const lines = computed<Line[]>(() => {
    const table = data.value
    if (!table) return []
    if (!group.value) return table.rows.map((row, at) => ({ row, at }))
    return table.groups.flatMap((g) => [
      { group: g },
      ...table.rows.slice(g.from, g.from + g.rows).map((row, i) => ({ row, at: g.from + i })),
    ])
  })

  function sortOn(field: string) {
    sort.value = order.value === field ? `-${field}` : field
  }
  const choose = (fields: string[]) => (picked.value = fields)
  const reset = () => choose([])
  /** Shows what was kept under a name. */
  function show(kept: Schemas['Filter']) {
    filter.value = kept.text ?? ''
    if (kept.columns?.length) choose(kept.columns)
    sort.value = kept.sort ?? ''
    group.value = kept.group ?? ''
  }
  return { list, kind: kindOf(list), filter, chosen, sort: order, group, columns, data, wrong, rows, lines, sortOn, choose, reset, show }
}

export type Table = ReturnType<typeof useTable>
