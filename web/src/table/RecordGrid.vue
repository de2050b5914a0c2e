<script setup lang="ts">
// The table of a kind of record: just the rows that can be seen are made.
// Arrows go from cell to cell, Enter edits, Space picks rows; a block from a
// spreadsheet is pasted where one is, or into the row for something new.
import { lists } from '../api/core.gen'
import { useVirtualList } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import JacketMark from '../draw/JacketMark.vue'
import { attempt, say, useLab } from '../lab/useLab'
import { capital, spaced } from '../lab/words'
import { usePhone } from '../work/usePhone'
import { useWork } from '../work/work'
import CellField from './CellField.vue'
import NewRow from './NewRow.vue'
import type { Line, Table } from './useTable'

const props = defineProps<{
  table: Table
  label: string
  /** What is picked elsewhere, to be shown here. */
  picked?: string
  /** Rows can be added by typing and pasting them. */
  adds?: boolean
}>()
const emit = defineEmits<{ open: [id: string]; pick: [id: string] }>()
const selected = defineModel<string[]>('selected', { required: true })
const work = useWork()
const { lab, send } = useLab()
const { lines, rows } = props.table
const columns = computed(() => props.table.data.value?.columns ?? [])
const fixed = computed(() => lab.value?.view.kind === 'past')

const at = ref({ row: 0, column: 0 })
const editing = ref(false)
const phone = usePhone()
const rowHeight = phone.value ? 45 : 31
const { list, containerProps, wrapperProps, scrollTo } = useVirtualList(lines, { itemHeight: rowHeight, overscan: 10 })

const wide: Record<string, string> = {
  name: 'minmax(120px, 1.1fr)',
  purpose: 'minmax(160px, 2fr)',
  at: 'minmax(130px, 1.2fr)',
  where: 'minmax(130px, 1.2fr)',
  device_kind: 'minmax(104px, 0.9fr)',
  notes: 'minmax(160px, 2fr)',
  colour: 'minmax(96px, 0.9fr)',
  ports: 'minmax(180px, 1.6fr)',
  a: 'minmax(130px, 1.2fr)',
  b: 'minmax(130px, 1.2fr)',
  needs_m: 'minmax(150px, 1fr)',
}
const template = computed(() =>
  ['30px', ...columns.value.map((c) => wide[c.field] ?? (c.kind === 'words' ? 'minmax(80px, 0.8fr)' : 'minmax(74px, 0.7fr)'))].join(' '),
)
const least = computed(() => `${30 + columns.value.reduce((sum, c) => sum + (wide[c.field] ? 126 : 78), 0)}px`)

// What is picked elsewhere is shown here, and the other way round.
watch(
  () => props.picked,
  (id) => {
    const row = rows.value.findIndex((r) => r.id === id)
    if (row >= 0 && row !== at.value.row) go(row, at.value.column, false)
  },
)
// A new place would draw every row again before the new ones are there.
watch([props.table.filter, props.table.sort, props.table.group], () => at.value.row && (at.value = { row: 0, column: at.value.column }))

const cellId = (row: number, column: number) => `cell-${row}-${column}`
const lineOf = (row: number) => lines.value.findIndex((l) => 'row' in l && l.at === row)

function go(row: number, column: number, focus = true) {
  const to = { row: Math.max(0, Math.min(rows.value.length - 1, row)), column: Math.max(0, Math.min(columns.value.length - 1, column)) }
  at.value = to
  const box = containerProps.ref.value
  const top = lineOf(to.row) * rowHeight
  if (box && (top < box.scrollTop || top + rowHeight > box.scrollTop + box.clientHeight - rowHeight))
    scrollTo(Math.max(0, lineOf(to.row) - 4))
  if (focus) void nextTick(() => focusCell() || requestAnimationFrame(() => void focusCell()))
}
defineExpose({ go })

/** Focuses the cell one is at, once it is made; a field that is open keeps the focus. */
function focusCell(): boolean {
  const cell = editing.value ? null : document.getElementById(cellId(at.value.row, at.value.column))
  cell?.focus()
  return editing.value || !!cell
}

function pick(id: string) {
  if (props.picked !== id) emit('pick', id)
}
function toggle(id: string) {
  selected.value = selected.value.includes(id) ? selected.value.filter((s) => s !== id) : [...selected.value, id]
}

const page = 15
const keys: Record<string, (e: KeyboardEvent) => void> = {
  ArrowUp: () => go(at.value.row - 1, at.value.column),
  ArrowDown: () => go(at.value.row + 1, at.value.column),
  ArrowLeft: () => go(at.value.row, at.value.column - 1),
  ArrowRight: () => go(at.value.row, at.value.column + 1),
  PageUp: () => go(at.value.row - page, at.value.column),
  PageDown: () => go(at.value.row + page, at.value.column),
  Home: (e) => go(e.ctrlKey ? 0 : at.value.row, 0),
  End: (e) => go(e.ctrlKey ? rows.value.length - 1 : at.value.row, columns.value.length - 1),
  Enter: () => edit(),
  F2: () => edit(),
  ' ': () => rows.value[at.value.row] && toggle(rows.value[at.value.row]?.id ?? ''),
}

function key(e: KeyboardEvent) {
  const act =
    !editing.value && !e.altKey && !(e.shiftKey && e.key.startsWith('Arrow')) && !(e.target instanceof HTMLInputElement) && keys[e.key]
  if (!act) return
  e.preventDefault()
  e.stopPropagation()
  act(e)
}

function edit() {
  const column = columns.value[at.value.column]
  const row = rows.value[at.value.row]
  if (!column || !row || row.cells[at.value.column] === '–' || fixed.value) return
  if (column.derived) return emit('open', row.id)
  editing.value = true
}

/** One row's fact, or that of all rows picked where the row is among them. */
const keepIn = (id: string, field: string) => async (text: string, base: number) => {
  const ids = selected.value.length > 1 && selected.value.includes(id) ? selected.value : [id]
  const cells = ids.map((each) => ({ record: { kind: props.table.kind, id: each }, field, text }))
  const delta = await send('/api/v1/cells', { base_revision: base, cells })
  if (ids.length > 1 && delta.label) say(delta.label)
}

/** After an edit the same row, wherever it is sorted to now, and on to the next. */
function done(id: string, by: number) {
  editing.value = false
  const row = rows.value.findIndex((r) => r.id === id)
  go((row < 0 ? at.value.row : row) + by, at.value.column)
}

async function paste(e: ClipboardEvent) {
  if (editing.value || e.target instanceof HTMLInputElement) return
  const block = (e.clipboardData?.getData('text/plain') ?? '')
    .replace(/\r?\n$/, '')
    .split(/\r?\n/)
    .map((line) => line.split('\t'))
  e.preventDefault()
  const cells = block.flatMap((texts, down) =>
    texts.flatMap((text, across) => {
      const row = rows.value[at.value.row + down]
      const column = columns.value[at.value.column + across]
      return row && column && !column.derived ? [{ record: { kind: props.table.kind, id: row.id }, field: column.field, text }] : []
    }),
  )
  if (cells.length) await attempt(() => send('/api/v1/cells', { cells }))
}
function copy(e: ClipboardEvent) {
  if (editing.value || e.target instanceof HTMLInputElement) return
  const chosen = rows.value.filter((r) => selected.value.includes(r.id))
  const text = chosen.length ? chosen.map((r) => r.cells.join('\t')).join('\n') : (rows.value[at.value.row]?.cells[at.value.column] ?? '')
  e.clipboardData?.setData('text/plain', text)
  e.preventDefault()
}
/** What is drawn of a cell. Cells are no components of their own: there are hundreds, and a filter changes all of them. */
const figures = new Set(['figure', 'memory', 'capacity', 'price', 'day'])
const looks = computed(() =>
  columns.value.map((c) => ['cell', c.field, figures.has(c.kind) ? 'figure' : '', c.derived ? 'derived' : ''].join(' ')),
)
const drawn = (text: string, field: string) => spaced(field === 'at' ? text.replaceAll('"', '') : text)
/** The cell that something happens in. */
function cellOf(event: Event): { row: number; column: number } | undefined {
  const [, row, column] = /^cell-(\d+)-(\d+)$/.exec((event.target as HTMLElement).closest('[role=gridcell]')?.id ?? '') ?? []
  return row === undefined ? undefined : { row: Number(row), column: Number(column) }
}
function enter(event: Event) {
  const cell = cellOf(event)
  if (!cell || editing.value) return
  at.value = cell
  pick(rows.value[cell.row]?.id ?? '')
}
function enterToEdit(event: Event) {
  enter(event)
  if (cellOf(event)) edit()
}
const keyOf = (l: Line) => ('row' in l ? l.row.id : `group ${l.group.title}`)
const orderOf = (field: string) =>
  props.table.sort.value === field ? 'ascending' : props.table.sort.value === `-${field}` ? 'descending' : 'none'
const stateOf = (id: string) =>
  (lab.value?.[lists[props.table.kind as keyof typeof lists]].get(id) as { state?: string } | undefined)?.state
/** The row that is picked elsewhere, or whose trail is lit. */
const isPicked = (id: string) => id === props.picked || id === work.lit
</script>

<template>
  <div
    class="table"
    :style="{ '--columns': template, '--least': least, '--line': `${rowHeight - 1}px` }"
    @keydown="key"
    @paste="paste"
    @copy="copy">
    <div
      v-bind="containerProps"
      class="scroll"
      role="grid"
      :aria-label="label"
      :aria-rowcount="rows.length + 1"
      :aria-colcount="columns.length + 1"
      data-scroll>
      <div class="row head" role="row" :aria-rowindex="1">
        <span role="columnheader" aria-label="picked" />
        <span v-for="c in columns" :key="c.field" role="columnheader" :class="{ right: c.kind !== 'words' }" :aria-sort="orderOf(c.field)"
          ><button tabindex="-1" @click="table.sortOn(c.field)">
            {{ capital(c.title)
            }}<i v-if="orderOf(c.field) !== 'none'" aria-hidden="true">{{ orderOf(c.field) === 'descending' ? ' ↓' : ' ↑' }}</i>
          </button></span
        >
      </div>
      <NewRow v-if="adds && !fixed" :table="table" :columns="columns" />
      <div v-bind="wrapperProps" role="rowgroup" @focusin="enter" @click="enter" @dblclick="enterToEdit">
        <template v-for="l in list" :key="l.index">
          <div v-if="'group' in l.data" class="row group" role="row">
            <span role="gridcell" class="title"
              >{{ l.data.group.title || 'unknown' }} <small class="figure">{{ l.data.group.rows }}</small></span
            >
            <span v-for="(s, i) in l.data.group.sums.slice(1)" :key="i" role="gridcell" class="sum figure">{{ spaced(s) }}</span>
          </div>
          <div
            v-else-if="'row' in l.data"
            class="row"
            role="row"
            :aria-rowindex="l.data.at + 2"
            :aria-selected="selected.includes(l.data.row.id)"
            :class="[stateOf(l.data.row.id), { picked: isPicked(l.data.row.id), chosen: selected.includes(l.data.row.id) }]">
            <label role="gridcell" class="tick"
              ><input
                type="checkbox"
                tabindex="-1"
                :checked="selected.includes(l.data.row.id)"
                :aria-label="`Pick ${l.data.row.cells[0] || 'it'}`"
                @click="toggle(l.data.row.id)"
            /></label>
            <div
              v-for="(c, i) in columns"
              :id="cellId(l.data.at, i)"
              :key="c.field"
              role="gridcell"
              :class="[looks[i], { bad: l.data.row.bad?.includes(c.field) }]"
              :tabindex="l.data.at === at.row && i === at.column && !editing ? 0 : -1">
              <CellField
                v-if="editing && l.data.at === at.row && i === at.column"
                :column="c"
                :text="l.data.row.cells[i] ?? ''"
                :keep="keepIn(l.data.row.id, c.field)"
                @done="(by) => done(keyOf(l.data), by)" />
              <template v-else-if="l.data.row.cells[i]"
                ><JacketMark v-if="c.field === 'colour'" :hex="l.data.row.hex" />{{ drawn(l.data.row.cells[i] ?? '', c.field) }}</template
              >
              <span v-else-if="i && !c.derived && !c.maybe" class="gap" aria-label="unknown">?</span>
              <span v-else class="soft">–</span>
            </div>
          </div>
        </template>
      </div>
    </div>
  </div>
</template>

<style scoped>
.table {
  flex: 1;
  min-height: 0;
  margin: 0 18px 10px;
  background: var(--sheet);
  border: 1px solid var(--ink);
}
.scroll {
  height: 100%;
}
.row {
  display: grid;
  grid-template-columns: var(--columns);
  min-width: var(--least);
  height: calc(var(--line) + 1px);
  border-bottom: 1px solid var(--hair);
  contain: layout style;
}
.row.picked {
  background: color-mix(in srgb, var(--sheet) 90%, var(--red));
}
.row.chosen {
  background: color-mix(in srgb, var(--sheet) 84%, var(--water));
}
/* What is wrong with an entry lies over the rows below. */
.row:has(.wrong) {
  position: relative;
  z-index: 1;
}
.tick {
  display: grid;
  place-items: center;
}
.head {
  position: sticky;
  top: 0;
  z-index: 2;
  background: var(--sheet);
  border-bottom: 1px solid var(--ink);
}
.head button {
  width: 100%;
  padding: 0 8px;
  overflow: hidden;
  text-align: left;
  text-overflow: ellipsis;
  font: 600 13px/var(--line) var(--names);
  white-space: nowrap;
}
.head .right button {
  text-align: right;
}
.head i {
  font-style: normal;
}
.group {
  background: var(--strip);
  border-bottom-color: var(--rule);
}
.group .title {
  grid-column: span 2;
  padding: 0 8px;
  font: 600 14px/var(--line) var(--names);
}
.group .sum {
  padding: 0 8px;
  line-height: var(--line);
  text-align: right;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.cell {
  position: relative;
  padding: 0 8px;
  line-height: var(--line);
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  cursor: default;
}
.cell:has(.wrong) {
  overflow: visible;
}
.cell:focus-visible {
  outline: 2px solid var(--red);
  outline-offset: -2px;
}
.cell.figure {
  text-align: right;
}
.cell.derived {
  background: color-mix(in srgb, var(--sheet) 60%, var(--strip));
}
.cell.name {
  font: 600 14px/var(--line) var(--names);
}
.cell.bad {
  color: var(--red);
  background: var(--sheet);
}
.gap {
  color: var(--soft);
  font-family: var(--figures);
}
</style>
