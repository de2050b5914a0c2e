// The table that is looked at: its filter, columns, order and groups, and the
// rows that the server makes of them.
import { useLocalStorage } from '@vueuse/core'
import { computed, ref } from 'vue'
import { get, type Schemas } from '../../api/client'
import { useReport } from '../../lab/useReport'

export type Kind = 'devices' | 'parts'

const usual: Record<Kind, string[]> = {
  devices: ['name', 'device_kind', 'state', 'at', 'depth_mm', 'weight_kg', 'ram', 'bays_free', 'price_minor', 'purpose'],
  parts: ['name', 'part_kind', 'where', 'state', 'size_bytes', 'medium', 'interface', 'cores', 'hours', 'price_minor', 'warranty_until'],
}

/** A line of the table: a group's heading or a row. */
export type Line = { group: Schemas['GroupSum'] } | { row: Schemas['TableRow']; at: number }

export function useTable(kind: Kind) {
  const filter = ref('')
  const chosen = useLocalStorage<string[]>(`levelstaff-columns-${kind}`, usual[kind])
  const sort = ref('name')
  const group = ref('')
  const columns = ref<Schemas['Column'][]>([])
  void get<Schemas['GearColumns']>(`/api/v1/gear/columns?table=${kind}`).then((answer) => (columns.value = answer.columns))

  const { data, wrong } = useReport<Schemas['Table']>(
    () => `/api/v1/gear?table=${kind}&columns=${chosen.value.join(',')}&sort=${encodeURIComponent(sort.value)}&group=${encodeURIComponent(group.value)}&filter=${encodeURIComponent(filter.value.trim())}`,
  )
  const rows = computed(() => data.value?.rows ?? [])
  const lines = computed<Line[]>(() => {
    const table = data.value
    if (!table) return []
    if (!group.value) return table.rows.map((row, at) => ({ row, at }))
    return table.groups.flatMap((g) => [{ group: g }, ...table.rows.slice(g.from, g.from + g.rows).map((row, i) => ({ row, at: g.from + i }))])
  })

  function sortOn(field: string) {
    sort.value = sort.value === field ? `-${field}` : field
  }
  const choose = (fields: string[]) => (chosen.value = fields)
  const reset = () => choose(usual[kind])
  /** Shows what was kept under a name. */
  function show(kept: Schemas['Filter']) {
    filter.value = kept.text ?? ''
    if (kept.columns?.length) choose(kept.columns)
    sort.value = kept.sort ?? 'name'
    group.value = kept.group ?? ''
  }
  return { kind, filter, chosen, sort, group, columns, data, wrong, rows, lines, sortOn, choose, reset, show }
}

export type Table = ReturnType<typeof useTable>
