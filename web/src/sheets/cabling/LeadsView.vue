<script setup lang="ts">
// Every cable in a table: each fact is edited where it stands; a new one is
// typed, or many are pasted from a spreadsheet, in the row at the top.
import { computed, nextTick, ref } from 'vue'
import { Refused, type Schemas } from '../../api/client'
import JacketMark from '../../draw/JacketMark.vue'
import { say, useLab } from '../../lab/useLab'
import { useReport } from '../../lab/useReport'
import { useCabling } from '../../work/useCabling'
import { useWork } from '../../work/work'
import { kindName } from './choices'
import './lists.css'

const work = useWork()
const { lab, send } = useLab()
const { pickCable } = useCabling()
const { data } = useReport<Schemas['Leads']>(() => '/api/v1/reports/leads')
const filter = ref('')
const fixed = computed(() => lab.value?.view.kind === 'past')

const columns = [
  { field: 'label', title: 'Label' },
  { field: 'a', title: 'One end' },
  { field: 'b', title: 'Other end' },
  { field: 'cable_kind', title: 'Kind' },
  { field: 'colour', title: 'Colour' },
  { field: 'length_m', title: 'Length' },
  { field: 'way', title: 'Way' },
  { field: 'state', title: 'State' },
] as const
type Field = (typeof columns)[number]['field']
interface Shown {
  id: string
  hex?: string
  short?: string
  cells: Record<Field, string>
  /** Everything a filter looks in. */
  words: string
}
const rows = computed<Shown[]>(() =>
  (data.value?.leads ?? []).flatMap((l) => {
    const c = lab.value?.cables.get(l.cable_id)
    if (!c) return []
    const cells = { label: c.label ?? '', a: l.a, b: l.b, cable_kind: c.cable_kind ?? '', colour: c.colour ?? '', length_m: c.length_m === undefined ? '' : `${c.length_m} m`, way: lab.value?.runs.get(c.run_id ?? '')?.name ?? (c.way ? `via ${c.way}` : ''), state: c.state === 'in_use' ? 'in use' : c.state }
    return [{ id: c.id, cells, words: [...Object.values(cells), kindName(c.cable_kind)].join('\n').toLowerCase(), hex: l.hex, short: l.short && l.should ? `needs ${Math.round(l.should.need_m * 100) / 100} m` : undefined }]
  }),
)
const passing = computed(() => {
  const words = filter.value.toLowerCase().split(/\s+/).filter(Boolean)
  return rows.value.filter((r) => words.every((w) => r.words.includes(w)))
})
/** Drawn at once; more on asking. */
const most = ref(60)

const editing = ref<{ id: string; field: Field } | undefined>()
const entry = ref('')
const wrong = ref('')
const is = (id: string, field: Field) => editing.value?.id === id && editing.value.field === field
async function edit(row: Shown, field: Field) {
  if (fixed.value) return
  editing.value = { id: row.id, field }
  entry.value = row.cells[field]
  wrong.value = ''
  await nextTick()
  const input = document.querySelector<HTMLInputElement>('.leads td input')
  input?.focus()
  input?.select()
}
async function keep() {
  const at = editing.value
  if (!at) return
  const before = rows.value.find((r) => r.id === at.id)?.cells[at.field]
  if (entry.value.trim() === before) return (editing.value = undefined)
  const run = at.field === 'way' && [...(lab.value?.runs.values() ?? [])].some((r) => r.name.toLowerCase() === entry.value.trim().toLowerCase())
  try {
    await send('/api/v1/facts', { record: { kind: 'cable', id: at.id }, field: run ? 'run_id' : at.field, text: entry.value.trim() || '?' })
    if (editing.value === at) editing.value = undefined
  } catch (e) {
    if (!(e instanceof Refused)) throw e
    wrong.value = e.message
  }
}

const fresh = ref({ a: '', b: '', kind: '', colour: '', length: '' })
const freshWrong = ref('')
/** The rows as a file, which is taken whole or not at all. */
async function take(lines: string[][]) {
  const cell = (s = '') => (/[",\n]/.test(s) ? `"${s.replaceAll('"', '""')}"` : s)
  const text = ['a,b,length_m,colour,kind,label', ...lines.map((l) => Array.from({ length: 6 }, (_, i) => cell(l[i]?.trim())).join(','))].join('\n')
  freshWrong.value = ''
  try {
    const delta = await send('/api/v1/files/cables.csv', { text })
    if (delta?.label) say(delta.label)
    fresh.value = { a: '', b: '', kind: '', colour: '', length: '' }
  } catch (e) {
    if (!(e instanceof Refused)) throw e
    freshWrong.value = e.message
  }
}
const addOne = () => take([[fresh.value.a, fresh.value.b, fresh.value.length.replace(/\s*m$/, ''), fresh.value.colour, fresh.value.kind]])
function paste(event: ClipboardEvent) {
  const text = event.clipboardData?.getData('text') ?? ''
  if (!/[\t\n]/.test(text.trim())) return
  event.preventDefault()
  void take(
    text
      .trim()
      .split(/\r?\n/)
      .map((l) => l.split('\t')),
  )
}
</script>

<template>
  <div class="list-room leads">
    <div class="tools">
      <input v-model="filter" type="search" class="field" placeholder="Words, such as yellow PP1" aria-label="Filter" />
      <p class="soft" role="status">{{ passing.length === rows.length ? rows.length : `${passing.length} of ${rows.length}` }} cables</p>
      <p class="files"><a href="/api/v1/files/cables.csv" download>CSV</a> <a href="/api/v1/files/cables.xlsx" download>workbook</a> <a href="/api/v1/files/wiring.dot" download>Graphviz</a></p>
    </div>
    <table aria-label="Leads">
      <thead>
        <tr><th v-for="c in columns" :key="c.field" :class="{ number: c.field === 'length_m' }">{{ c.title }}</th><th><span class="sr-only">Show</span></th></tr>
      </thead>
      <tbody>
        <tr v-if="!fixed" class="fresh" @paste="paste" @keydown.enter="addOne">
          <td><v-btn size="small" variant="text" :disabled="!fresh.a" @click="addOne">Add</v-btn></td>
          <td><input v-model="fresh.a" class="field" placeholder="core/7, or paste rows" aria-label="One end of a new cable" spellcheck="false" /></td>
          <td><input v-model="fresh.b" class="field" placeholder="PP1/7" aria-label="Its other end" spellcheck="false" /></td>
          <td><input v-model="fresh.kind" class="field" placeholder="cat6" aria-label="Its kind" /></td>
          <td><input v-model="fresh.colour" class="field" placeholder="yellow" aria-label="Its colour" /></td>
          <td><input v-model="fresh.length" class="field" placeholder="0.25" aria-label="Its length in metres" /></td>
          <td colspan="2" />
        </tr>
        <tr v-if="freshWrong"><td colspan="8" class="bad" role="alert">{{ freshWrong }}</td></tr>
        <tr v-for="r in passing.slice(0, most)" :key="r.id" :class="{ lit: work.lit === r.id }">
          <td v-for="c in columns" :key="c.field" :class="{ number: c.field === 'length_m', figure: c.field === 'a' || c.field === 'b' || c.field === 'label' }">
            <template v-if="is(r.id, c.field)">
              <input v-model="entry" class="field" :aria-label="c.title" :aria-invalid="!!wrong" spellcheck="false" @keydown.enter.stop="keep" @keydown.esc.stop="editing = undefined" @blur="wrong ? (editing = undefined) : keep()" />
              <span v-if="wrong" class="bad" role="alert">{{ wrong }}</span>
            </template>
            <button v-else :disabled="fixed" :aria-label="`${c.title}: ${r.cells[c.field] || 'unknown'}`" @click="edit(r, c.field)">
              <JacketMark v-if="c.field === 'colour' && r.cells.colour" :hex="r.hex" />
              <i v-if="!r.cells[c.field] && ['cable_kind', 'length_m'].includes(c.field)" class="unknown">?</i>
              <template v-else>{{ r.cells[c.field] || '–' }}</template>
              <span v-if="c.field === 'length_m' && r.short" class="bad short">{{ r.short }}</span>
            </button>
          </td>
          <td class="show"><button :aria-label="`Show ${r.cells.a}`" @click="pickCable(lab?.cables.get(r.id))">›</button></td>
        </tr>
      </tbody>
    </table>
    <p v-if="passing.length > most"><v-btn variant="text" size="small" @click="most += 500">{{ passing.length - most }} more</v-btn></p>
  </div>
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 14px;
  margin-bottom: 8px;
}
.tools input {
  width: 240px;
}
.files {
  display: flex;
  gap: 12px;
  margin-left: auto;
}
td .field {
  width: 100%;
  min-width: 64px;
}
td button {
  max-width: 190px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  text-decoration: none !important;
}
td button:hover:enabled {
  text-decoration: underline dotted var(--soft) !important;
}
.short {
  margin-left: 8px;
}
.show button {
  padding: 0 8px;
}
</style>
