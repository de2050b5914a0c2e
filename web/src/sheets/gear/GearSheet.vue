<script setup lang="ts">
// Everything there is, everywhere, in one table: filtered as one types, edited
// in place by keyboard. Just the rows that can be seen are made.
import { useVirtualList } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import type { Device } from '../../api/client'
import { useLab } from '../../lab/useLab'
import TitleBlock from '../../frame/TitleBlock.vue'
import { useWork } from '../../work/work'
import { columns, rowsOf, type Column } from './columns'
import GearCell from './GearCell.vue'

const work = useWork()
const { lab } = useLab()
const filter = ref('')
const sortBy = ref<Column>(columns[0])
const down = ref(false)
const at = ref({ row: 0, column: 0 })
const editing = ref(false)
const rowHeight = 31

const all = computed(() => (lab.value ? rowsOf(lab.value) : []))
const rows = computed(() => {
  const words = filter.value.toLowerCase().split(/\s+/).filter(Boolean)
  const found = words.length ? all.value.filter((r) => words.every((w) => r.text.includes(w))) : [...all.value]
  const { sort } = sortBy.value
  const sign = down.value ? -1 : 1
  // What is not known comes last, whichever way the rest is sorted.
  return found.sort((a, b) => {
    const [x, y] = [sort(a), sort(b)]
    if (x === undefined || y === undefined) return x === y ? 0 : x === undefined ? 1 : -1
    return sign * (typeof x === 'number' && typeof y === 'number' ? x - y : `${x}`.localeCompare(`${y}`, 'en', { numeric: true, sensitivity: 'base' }))
  })
})
const { list, containerProps, wrapperProps, scrollTo } = useVirtualList(rows, { itemHeight: rowHeight, overscan: 12 })

function sortOn(c: Column) {
  down.value = sortBy.value === c && !down.value
  sortBy.value = c
}

// What is picked elsewhere is shown here, and the other way round.
watch(
  () => work.deviceId,
  (id) => {
    const row = rows.value.findIndex((r) => r.device.id === id)
    if (row >= 0 && row !== at.value.row) go(row, at.value.column, false)
  },
  { immediate: true },
)
watch([filter, sortBy, down], () => (at.value = { row: 0, column: at.value.column }))

const cellId = (row: number, column: number) => `gear-${row}-${column}`

function go(row: number, column: number, focus = true) {
  const to = { row: Math.max(0, Math.min(rows.value.length - 1, row)), column: Math.max(0, Math.min(columns.length - 1, column)) }
  at.value = to
  const box = containerProps.ref.value
  const top = to.row * rowHeight
  if (box && (top < box.scrollTop || top + rowHeight > box.scrollTop + box.clientHeight - rowHeight)) scrollTo(Math.max(0, to.row - 4))
  if (focus) void nextTick(() => focusCell() || requestAnimationFrame(() => void focusCell()))
}

/** Focuses the cell one is at, once it is made; a field that is open keeps the focus. */
function focusCell(): boolean {
  const cell = editing.value ? null : document.getElementById(cellId(at.value.row, at.value.column))
  cell?.focus()
  return editing.value || !!cell
}

function pick(d: Device) {
  if (work.deviceId !== d.id) work.pick(d.id)
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
  End: (e) => go(e.ctrlKey ? rows.value.length - 1 : at.value.row, columns.length - 1),
  Enter: () => edit(),
  F2: () => edit(),
}

function key(e: KeyboardEvent) {
  const act = !editing.value && !e.altKey && !(e.shiftKey && e.key.startsWith('Arrow')) && keys[e.key]
  if (!act) return
  e.preventDefault()
  e.stopPropagation()
  act(e)
}

function edit() {
  const column = columns[at.value.column]
  if (lab.value?.view.kind !== 'past' && column?.field) editing.value = true
}

/** After an edit the same row, wherever it is sorted to now, and on to the next. */
function done(device: Device, by: number) {
  editing.value = false
  const row = rows.value.findIndex((r) => r.device.id === device.id)
  go((row < 0 ? at.value.row : row) + by, at.value.column)
}
const known = computed(() => `${rows.value.length === all.value.length ? '' : `${rows.value.length} of `}${all.value.length} things`)
</script>

<template>
  <main class="sheet grid-paper">
    <div class="bar">
      <input v-model="filter" type="search" class="filter" placeholder="words of a name, kind, place, state, purpose" aria-label="Filter" @keydown.down.prevent="go(0, 0)" @keydown.esc="filter = ''" />
      <p class="soft" role="status">{{ known }}</p>
    </div>
    <div class="table" @keydown="key">
      <div v-bind="containerProps" class="scroll" role="grid" aria-label="Gear" :aria-rowcount="rows.length + 1" :aria-colcount="columns.length" data-scroll>
        <div class="row head" role="row" :aria-rowindex="1">
          <span v-for="c in columns" :key="c.name" role="columnheader" :class="c.name" :aria-sort="sortBy === c ? (down ? 'descending' : 'ascending') : 'none'"><button tabindex="-1" @click="sortOn(c)">{{ c.title }}<i v-if="sortBy === c" aria-hidden="true">{{ down ? ' ↓' : ' ↑' }}</i></button></span>
        </div>
        <div v-bind="wrapperProps" role="rowgroup">
          <div v-for="r in list" :key="r.data.device.id" class="row" role="row" :aria-rowindex="r.index + 2" :class="[r.data.device.state, { picked: r.data.device.id === work.deviceId }]">
            <GearCell
              v-for="(c, i) in columns"
              :id="cellId(r.index, i)"
              :key="c.name"
              :column="c"
              :row="r.data"
              :here="r.index === at.row && i === at.column"
              :editing="editing && r.index === at.row && i === at.column"
              @focus="((at = { row: r.index, column: i }), pick(r.data.device))"
              @edit="((at = { row: r.index, column: i }), edit())"
              @done="(by) => done(r.data.device, by)"
            />
          </div>
        </div>
      </div>
    </div>
    <p v-if="!rows.length" class="none">{{ all.length ? `Nothing has all of “${filter}” in it.` : 'Nothing is written down yet. Type a line above, such as 5 server "anvil".' }}</p>
    <TitleBlock sheet="Gear" />
  </main>
</template>

<style scoped>
.sheet {
  display: flex;
  flex-direction: column;
  min-width: 0;
}
.bar {
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 10px 18px 8px;
}
.filter {
  width: min(360px, 100%);
  height: 32px;
  padding: 0 10px;
  font: 400 14px var(--sentences);
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--soft);
  border-radius: 3px;
}
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
  grid-template-columns: minmax(110px, 1.1fr) minmax(96px, 0.9fr) 76px minmax(120px, 1.2fr) 52px 74px 74px 78px minmax(150px, 2fr);
  height: 31px;
  min-width: 860px;
  border-bottom: 1px solid var(--hair);
}
.row.picked {
  background: color-mix(in srgb, var(--sheet) 90%, var(--red));
}
.head {
  position: sticky;
  top: 0;
  z-index: 1;
  background: var(--sheet);
  border-bottom: 1px solid var(--ink);
}
.head button {
  width: 100%;
  padding: 0 8px;
  text-align: left;
  font: 600 13px/30px var(--names);
  white-space: nowrap;
}
.head i {
  font-style: normal;
}
.head .takes button,
.head .high button,
.head .deep button,
.head .weight button {
  text-align: right;
}
.none {
  padding: 0 20px 20px;
}
</style>
