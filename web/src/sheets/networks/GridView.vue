<script setup lang="ts">
// The VLAN grid: the ports of switches down, VLANs across. A VLAN is painted by
// pointer or keys, one port or a run of them; what the other end of a link says is
// beside it where it differs.
import { computed, nextTick, ref, shallowRef, watch } from 'vue'
import { api } from '../../api/address'
import { Refused, type Schemas } from '../../api/client'
import { say, useLab } from '../../lab/useLab'
import { useReport } from '../../lab/useReport'
import { useWork } from '../../work/work'
import { useNetwork, vlanKey } from '../../work/useNetwork'
import GridRow from './GridRow.vue'
import { carriedOf, painted, type Brush, type Carried } from './paint'

type GridDevice = Schemas['GridDevice']
type GridPort = Schemas['GridPort']

const emit = defineEmits<{ says: [text: string] }>()
const work = useWork()
const { lab, send } = useLab()
const { lit } = useNetwork(() => false)
const { data } = useReport(() => api('/api/v1/network/grid'))
const fixed = computed(() => lab.value?.view.kind === 'past')

const domains = computed(() => [...new Set((data.value?.vlans ?? []).map((v) => v.switching_domain ?? ''))])
const domain = ref('')
watch(domains, (now) => !now.includes(domain.value) && (domain.value = now[0] ?? ''))
const vlans = computed(() => (data.value?.vlans ?? []).filter((v) => (v.switching_domain ?? '') === domain.value))
const inDomain = computed(() => (data.value?.devices ?? []).filter((d) => (d.switching_domain ?? '') === domain.value && d.ports.length))
/** One device, or all of them while they are few. */
const most = 160
const only = ref('')
const many = computed(() => inDomain.value.reduce((sum, d) => sum + d.ports.length, 0) > most)
const shown = computed(() => {
  const one =
    inDomain.value.find((d) => d.device_id === (only.value || (many.value ? work.deviceId : ''))) ??
    (many.value ? inDomain.value[0] : undefined)
  return one ? [one] : inDomain.value
})
watch(
  () => work.deviceId,
  (id) => {
    if (inDomain.value.some((d) => d.device_id === id)) {
      if (only.value) only.value = id
      void nextTick(() => document.getElementById(`grid-${id}`)?.scrollIntoView({ block: 'nearest' }))
    }
  },
)

/** Every row there is, so that a range may go from one switch into the next. */
const rows = computed(() => shown.value.flatMap((d) => (d.passes ? [] : d.ports.map((p) => ({ d, p, key: `${d.device_id} ${p.port}` })))))
const rowAt = computed(() => new Map(rows.value.map((r, i) => [r.key, i])))

// What is painted shows at once, and is what the lab says once it has answered.
const paint = shallowRef(new Map<string, Carried>())
watch(data, () => (paint.value = new Map()))
/** What the lab says of each port, read once, so that only the row that is painted is drawn anew. */
const said = new WeakMap<GridPort, Carried>()
function saidOf(p: GridPort): Carried {
  const known = said.get(p) ?? carriedOf(p)
  said.set(p, known)
  return known
}
const carried = (d: GridDevice, p: GridPort) => paint.value.get(`${d.device_id} ${p.port}`) ?? saidOf(p)

const brush = ref<Brush>('tagged')
const brushes: { brush: Brush; text: string; key: string }[] = [
  { brush: 'untagged', text: 'Untagged', key: 'U' },
  { brush: 'tagged', text: 'Tagged', key: 'T' },
  { brush: 'none', text: 'Take off', key: 'Del' },
]
const at = ref({ row: 0, col: 0 })
const from = ref({ row: 0, col: 0 })
const range = computed(() => ({
  rows: [Math.min(at.value.row, from.value.row), Math.max(at.value.row, from.value.row)] as const,
  cols: [Math.min(at.value.col, from.value.col), Math.max(at.value.col, from.value.col)] as const,
}))
const focusedIn = ref(false)

/** Paints cells, and says so to the lab: a run of ports in one VLAN, as one change. */
async function apply(as: Brush, cells: { row: number; col: number }[]) {
  if (fixed.value || !cells.length) return
  const next = new Map(paint.value)
  const sent: Schemas['VLANCell'][] = []
  for (const { row, col } of cells) {
    const r = rows.value[row]
    const v = vlans.value[col]
    if (!r || !v) continue
    const is = next.get(r.key) ?? saidOf(r.p)
    next.set(r.key, painted(is, v.number, as))
    sent.push({ device_id: r.d.device_id, port: r.p.port, number: v.number, as })
  }
  paint.value = next
  try {
    await send('/api/v1/network/cells', { cells: sent })
  } catch (e) {
    if (!(e instanceof Refused)) throw e
    paint.value = new Map()
    say(e.message, true)
  }
}
function cellsOf({ rows: [r0, r1], cols: [c0, c1] }: typeof range.value) {
  const list = []
  for (let row = r0; row <= r1; row++) for (let col = c0; col <= c1; col++) list.push({ row, col })
  return list
}

// By pointer: what a press begins goes on over the ports it is dragged over, in the
// same VLAN.
const dragging = shallowRef<{ as: Brush; col: number }>()
const spot = (event: Event) => {
  const cell = (event.target as HTMLElement).closest<HTMLElement>('[data-cell]')
  const [row, col] = (cell?.dataset['cell'] ?? '').split(' ')
  return cell ? { row: Number(row), col: Number(col) } : undefined
}
function down(event: PointerEvent) {
  const cell = spot(event)
  if (!cell || event.button) return
  event.preventDefault()
  if (event.shiftKey) {
    at.value = { row: cell.row, col: from.value.col }
    void apply(brush.value, cellsOf(range.value))
    focusCell()
    return
  }
  at.value = from.value = cell
  const r = rows.value[cell.row]
  const v = vlans.value[cell.col]
  if (!r || !v) return
  const is = carried(r.d, r.p)
  const has = is.untagged === v.number ? 'untagged' : is.tagged === 'all' || is.tagged.has(v.number) ? 'tagged' : 'none'
  dragging.value = { as: has === brush.value ? 'none' : brush.value, col: cell.col }
  focusCell()
}
function over(event: PointerEvent) {
  if (!dragging.value) return
  const under = document.elementFromPoint(event.clientX, event.clientY)?.closest<HTMLElement>('[data-cell]')
  const row = Number((under?.dataset['cell'] ?? '').split(' ')[0])
  if (under && row !== at.value.row) at.value = { row, col: dragging.value.col }
}
function up() {
  const as = dragging.value?.as
  dragging.value = undefined
  if (!as) return
  void apply(as, cellsOf(range.value))
}

/** A cell that gets the focus in another way is the one that keys are about. */
function focusIn(event: FocusEvent) {
  focusedIn.value = true
  const cell = spot(event)
  if (cell && (cell.row !== at.value.row || cell.col !== at.value.col)) at.value = from.value = cell
}
function focusCell() {
  void nextTick(() => document.querySelector<HTMLElement>(`[data-cell="${at.value.row} ${at.value.col}"]`)?.focus())
}
function key(event: KeyboardEvent) {
  if (event.ctrlKey || event.metaKey || event.altKey) return
  const step = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }[event.key]
  if (step) {
    const to = {
      row: Math.max(0, Math.min(rows.value.length - 1, at.value.row + (step[0] ?? 0))),
      col: Math.max(0, Math.min(vlans.value.length - 1, at.value.col + (step[1] ?? 0))),
    }
    at.value = to
    if (!event.shiftKey) from.value = to
    focusCell()
  } else if (/^[ut]$/i.test(event.key)) void apply(event.key.toLowerCase() === 'u' ? 'untagged' : 'tagged', cellsOf(range.value))
  else if (event.key === ' ' || event.key === 'Enter') void apply(brush.value, cellsOf(range.value))
  else if (event.key === 'Delete' || event.key === 'Backspace') void apply('none', cellsOf(range.value))
  else return
  event.preventDefault()
}

/** From a spreadsheet, from the focused cell on. */
async function paste(event: ClipboardEvent) {
  const text = event.clipboardData?.getData('text') ?? ''
  const r = rows.value[at.value.row]
  const v = vlans.value[at.value.col]
  if (!text.trim() || !r || !v || fixed.value) return
  event.preventDefault()
  try {
    await send('/api/v1/network/pasted', { device_id: r.d.device_id, port: r.p.port, number: v.number, text })
  } catch (e) {
    if (!(e instanceof Refused)) throw e
    say(e.message, true)
  }
}
/** And into one. */
function copy(event: ClipboardEvent) {
  const {
    rows: [r0, r1],
    cols: [c0, c1],
  } = range.value
  const lines = rows.value.slice(r0, r1 + 1).map((r) =>
    vlans.value
      .slice(c0, c1 + 1)
      .map((v) => {
        const is = carried(r.d, r.p)
        return is.untagged === v.number ? 'U' : is.tagged === 'all' || is.tagged.has(v.number) ? 'T' : ''
      })
      .join('\t'),
  )
  event.clipboardData?.setData('text/plain', lines.join('\n'))
  event.preventDefault()
}

watch(
  [rows, vlans],
  () => {
    const differ = rows.value.filter((r) => r.p.to?.differs).length
    emit('says', differ ? `${differ} ${differ === 1 ? 'port differs' : 'ports differ'} from the other end` : '')
  },
  { immediate: true },
)
const few = computed(() => vlans.value.length <= 12)
const litNumber = computed(() => vlans.value.find((v) => vlanKey(v) === lit.value)?.number)
</script>

<template>
  <div class="bar tools">
    <div class="segments" role="group" aria-label="What is painted">
      <button
        v-for="b in brushes"
        :key="b.brush"
        :aria-pressed="brush === b.brush"
        :disabled="fixed"
        :title="`${b.key} paints it on what is picked`"
        @click="brush = b.brush">
        {{ b.text }} <small>{{ b.key }}</small>
      </button>
    </div>
    <select v-if="domains.length > 1" v-model="domain" class="field" aria-label="Switching domain">
      <option v-for="d in domains" :key="d" :value="d">{{ d || 'usual domain' }}</option>
    </select>
    <select v-if="inDomain.length > 1" v-model="only" class="field" aria-label="Devices">
      <option value="">{{ many ? 'the one picked' : 'all devices' }}</option>
      <option v-for="d in inDomain" :key="d.device_id" :value="d.device_id">{{ d.title }}</option>
    </select>
    <span class="soft hint">Drag, or Shift, over several ports. Paste takes cells from a spreadsheet.</span>
    <span class="files">
      <a class="soft" href="/api/v1/files/vlan_plan.csv" download title="Ports by VLANs as CSV">CSV</a>
      <a class="soft" href="/api/v1/files/vlan_plan.xlsx" download title="Ports by VLANs as a workbook">XLSX</a>
    </span>
  </div>
  <p v-if="data && !vlans.length" class="none">
    No VLANs yet. Type one above, such as <code class="figure">vlan 20 "servers", green</code>, or say what a port carries:
    <code class="figure">core/1-12 untagged 20</code>.
  </p>
  <div
    v-else-if="data"
    class="grid-room"
    data-scroll
    @pointerdown="down"
    @pointermove="over"
    @pointerup="up"
    @pointercancel="dragging = undefined"
    @keydown="key"
    @paste="paste"
    @copy="copy"
    @focusin="focusIn"
    @focusout="focusedIn = false">
    <table role="grid" aria-label="VLAN grid" :aria-multiselectable="true">
      <thead>
        <tr>
          <th class="port" scope="col">Port</th>
          <th class="to" scope="col">Leads to</th>
          <th
            v-for="v in vlans"
            :key="v.number"
            scope="col"
            class="vlan"
            :class="{ lit: v.number === litNumber, narrow: !few }"
            :title="[v.name, v.purpose].filter(Boolean).join(': ')">
            <i :style="{ background: v.hex }" />
            <span class="figure">{{ v.number }}</span>
            <span v-if="few" class="name">{{ v.name ?? '?' }}</span>
          </th>
          <th class="rest" />
        </tr>
      </thead>
      <tbody v-for="d in shown" :id="`grid-${d.device_id}`" :key="d.device_id">
        <tr class="device">
          <th scope="rowgroup" :colspan="vlans.length + 3">
            <button :aria-pressed="work.deviceId === d.device_id" @click="work.pick(d.device_id)">{{ d.title }}</button>
            <span class="soft">{{ d.kind }}{{ d.passes ? ': passes everything on as it comes' : '' }}</span>
          </th>
        </tr>
        <template v-if="!d.passes">
          <GridRow
            v-for="p in d.ports"
            :key="p.port"
            :port="p"
            :vlans="vlans"
            :carried="carried(d, p)"
            :row="rowAt.get(`${d.device_id} ${p.port}`) ?? 0"
            :focus="at.row === rowAt.get(`${d.device_id} ${p.port}`) ? at.col : -1"
            :from="
              (rowAt.get(`${d.device_id} ${p.port}`) ?? -1) >= range.rows[0] &&
              (rowAt.get(`${d.device_id} ${p.port}`) ?? -1) <= range.rows[1] &&
              focusedIn
                ? range.cols[0]
                : -1
            "
            :to="range.cols[1]"
            :device="d.title"
            @pick="work.pick($event)" />
        </template>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.tools {
  padding-top: 0;
}
.segments small {
  margin-left: 4px;
  font: 400 12px var(--figures);
  opacity: 0.75;
}
.hint {
  font-size: 13px;
}
.files {
  display: flex;
  gap: 12px;
  margin-left: auto;
}
.none {
  padding: 20px;
}
.grid-room {
  flex: 1;
  min-height: 0;
  margin: 0 18px 10px;
  overflow: auto;
  background: var(--sheet);
  border: 1px solid var(--ink);
}
table {
  border-collapse: separate;
  border-spacing: 0;
  min-width: 100%;
}
thead th {
  position: sticky;
  top: 0;
  z-index: 2;
  padding: 6px 8px;
  font: 500 13px var(--names);
  text-align: left;
  vertical-align: bottom;
  color: var(--soft);
  background: var(--sheet);
  border-bottom: 1px solid var(--ink);
}
thead .vlan {
  min-width: 58px;
  padding: 6px 2px;
  text-align: center;
  color: var(--ink);
}
thead .vlan.narrow {
  min-width: 32px;
}
thead .vlan.lit {
  background: var(--strip);
}
thead i {
  display: block;
  width: 16px;
  height: 6px;
  margin: 0 auto 3px;
}
thead .name {
  display: block;
  max-width: 74px;
  margin: auto;
  overflow: hidden;
  text-overflow: ellipsis;
}
.rest {
  width: 100%;
}
.device th {
  padding: 10px 8px 4px;
  text-align: left;
  border-bottom: 1px solid var(--rule);
}
.device button {
  margin-right: 8px;
  font: 600 15px var(--names);
}
.device button[aria-pressed='true'] {
  color: var(--red);
}
@media (max-width: 700px) {
  .grid-room {
    margin: 0 10px 6px;
  }
  .hint {
    display: none;
  }
}
</style>
