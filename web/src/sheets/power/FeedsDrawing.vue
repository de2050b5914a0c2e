<script setup lang="ts">
// What feeds what: breakers, batteries, strips and what is fed, each load as a vial
// with its limit. A supply is led to an outlet by dragging it onto what is to feed it,
// or by picking the one and then the other.
import { computed, nextTick, ref } from 'vue'
import type { Schemas } from '../../api/client'
import { headHigh, looksOf, supplyHigh, type Box, type FeedsLayout, type Way } from '../../draw/feeds/layout'
import { minutesWords, useBattery } from '../../work/useBattery'
import { wattsOf, wattsWords, type Level, type PowerNode } from '../../work/usePower'

const props = defineProps<{
  layout: FeedsLayout
  nodes: PowerNode[]
  places: Schemas['PowerPlace'][]
  level: Level
  picked: string
  /** The supply that is being led to an outlet. */
  leading?: { device_id: string; port: string }
  /** What may feed it. */
  may: ReadonlySet<string>
  lost?: Schemas['PowerLoss']
}>()
const emit = defineEmits<{
  pick: [node: PowerNode]
  open: [place: string]
  lead: [device: string, port: string]
  plug: [feeder: string]
  cancel: []
}>()

const svg = ref<SVGSVGElement>()
defineExpose({ svg, show })
const looks = computed(() => looksOf(props.nodes))
const names = { breakers: 'Breakers', battery: 'On battery', strips: 'Strips', fed: 'What is fed' }
const levelWords: Record<Level, string> = { idle: 'idle', typical: 'typical', most: 'at most', boot: 'while all starts' }

const dark = computed(() => new Set(props.lost?.off_ids ?? []))
const held = computed(() => new Set(props.lost?.on_battery_ids ?? []))
const over = computed(() => new Set(props.lost?.over_ids ?? []))
const gone = computed(() => new Set(props.lost?.part ? [] : (props.lost?.lost_ids ?? [])))
/** What becomes of it by the loss; what is off anyway loses nothing. */
function stateOf(n: PowerNode): string {
  if (gone.value.has(n.id)) return 'lost'
  if (n.kind === 'device' && n.state !== 'running') return ''
  return dark.value.has(n.id) ? 'dark' : held.value.has(n.id) ? 'on battery' : over.value.has(n.id) ? 'over' : ''
}

/** A load with its limit: 372 of 900 W. */
function load(n: PowerNode): string {
  const of = props.level === 'idle' || props.level === 'typical' ? n.limit_w : undefined
  const w = wattsOf(n, props.level)
  return of === undefined ? `${w} W` : `${w} of ${wattsWords(of)} W`
}
/** A vial shows a quarter more than its limit, so that too much can be seen. */
const beyond = 1.25
const filled = (n: PowerNode) => Math.min(1, (n.full[props.level] ?? 0) / beyond)
const vialWide = (b: Box) => b.w - 16
const isFull = (n: PowerNode) => (n.full[props.level] ?? 0) > 1
const tight = (n: PowerNode) => n.standing === 'past' || n.standing === 'past_at_most'

const { byUPS } = useBattery()
const freeOf = (n: PowerNode) => n.outlets.filter((o) => !o.to).length
/** Outlets in a row, those that are free hollow. */
const pins = (b: Box) => (b.node?.outlets ?? []).slice(0, Math.floor((b.w - 14) / 8))
function under(n: PowerNode): string {
  if (n.kind === 'ups') {
    const held = n.outlets.filter((o) => o.held).length
    const minutes = byUPS.value.get(n.id)?.minutes
    const outlets = held === n.outlets.length ? `${held} hold` : `${held} of ${n.outlets.length} hold`
    return [minutes !== undefined && minutesWords(minutes), n.outlets.length && outlets].filter(Boolean).join(' · ')
  }
  return n.outlets.length ? `${freeOf(n)} free` : ''
}
/** What is to be said of a device besides what it draws. */
function note(n: PowerNode): string {
  const loose = n.supplies.filter((s) => !s.fed).map((s) => s.port)
  const is = stateOf(n)
  if (is === 'dark') return 'goes dark'
  if (is === 'on battery') return 'runs on the battery'
  if (n.state && n.state !== 'running') return n.state === 'resting' ? 'rests' : `${n.state}, draws nothing`
  if (n.supplies.length > 1 && loose.length) return `${loose.join(', ')} plugged in nowhere`
  if (n.shared_by) return `all on ${n.shared_by}`
  return ''
}
const bad = (n: PowerNode) => n.supplies.length > 1 && n.supplies.some((s) => !s.fed) && n.state === 'running'
/** What all in a folded place draws. */
function sum(b: Box): string {
  const is = props.places.find((p) => p.name === b.place)
  return wattsWords(is?.watts[props.level], is?.unknown_at[props.level])
}
/** How many letters of a name have room beside what stands at the right. */
const titleRoom = (b: Box, right: string) => Math.floor((b.w - (b.column === 'fed' ? 40 : 22) - right.length * 7) / 6.3)
const loadWords = (b: Box) =>
  !b.node ? '' : b.below && b.node.watts[props.level] === undefined ? 'by PoE, ?' : `${wattsOf(b.node, props.level)} W`
const short = (text: string, room: number) => (text.length > room ? `${text.slice(0, Math.max(1, room - 1))}…` : text)
function rating(n: PowerNode): string {
  if (n.kind === 'circuit') return n.amps_rated ? `${n.amps_rated} A` : '? A'
  if (n.kind === 'ups') return n.limit_va ? `${wattsWords(n.limit_va)} VA` : n.limit_w ? `${wattsWords(n.limit_w)} W` : '? VA'
  return n.outlets.length ? `${n.outlets.length} out` : ''
}

const pathOf = (w: Way) => w.points.map((p, i) => `${i ? 'L' : 'M'}${p.x} ${p.y}`).join('')
const look = (w: Way) => looks.value.get(w.feed) ?? { colour: 'var(--soft)', dash: '' }
const byBox = computed(() => new Map(props.layout.boxes.map((b) => [b.id, b])))
/** What goes on with what is picked: the ways to it and from it. */
const lit = computed(() => {
  const ids = new Set<string>()
  const walk = (id: string, end: 'from' | 'to') => {
    for (const w of props.layout.ways)
      if (w[end === 'from' ? 'to' : 'from'] === id && !ids.has(w.id)) {
        ids.add(w.id)
        walk(w[end], end)
      }
  }
  if (props.picked && byBox.value.has(props.picked)) {
    walk(props.picked, 'from')
    walk(props.picked, 'to')
  }
  return ids
})
const deadWay = (w: Way) => {
  const [from, to] = [byBox.value.get(w.from), byBox.value.get(w.to)]
  return (from?.node && ['lost', 'dark'].includes(stateOf(from.node))) || (to?.node && gone.value.has(to.node.id))
}

// Dragging a supply onto what is to feed it. The line follows the pointer without the
// drawing being made anew.
let drag: { x: number; y: number; moved: boolean } | undefined
const rubber = ref<SVGPathElement>()
function at(event: PointerEvent) {
  const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.value?.getScreenCTM()?.inverse())
  return { x, y }
}
function grab(event: PointerEvent, device: string, port: string) {
  if (event.button || props.lost) return
  drag = { ...at(event), moved: false }
  emit('lead', device, port)
  svg.value?.setPointerCapture(event.pointerId)
}
function move(event: PointerEvent) {
  if (!drag) return
  const to = at(event)
  drag.moved ||= Math.hypot(to.x - drag.x, to.y - drag.y) > 5
  if (drag.moved) rubber.value?.setAttribute('d', `M${drag.x} ${drag.y}L${to.x} ${to.y}`)
}
function letGo() {
  rubber.value?.setAttribute('d', '')
  const was = drag
  drag = undefined
  return was
}
function drop(event: PointerEvent) {
  if (!letGo()?.moved) return // a click: it is led until one picks where it goes
  const feeder = document.elementFromPoint(event.clientX, event.clientY)?.closest<SVGElement>('[data-feeder]')?.dataset['feeder']
  if (feeder) emit('plug', feeder)
  else emit('cancel')
}

function press(b: Box) {
  if (!b.node) return emit('open', b.place ?? '')
  if (props.leading && b.node.kind !== 'device') emit('plug', b.node.id)
  else emit('pick', b.node)
}
const focused = ref('')
const first = computed(() => byBox.value.get(focused.value)?.id ?? props.layout.boxes[0]?.id)
/** Arrows go up and down in a column, left and right along the ways. */
function next(b: Box, key: string): Box | undefined {
  const mid = (o: Box) => Math.abs(o.y + o.h / 2 - b.y - b.h / 2)
  if (key === 'ArrowUp' || key === 'ArrowDown') {
    const column = props.layout.boxes.filter((o) => o.column === b.column).sort((x, y) => x.y - y.y)
    return column[column.indexOf(b) + (key === 'ArrowUp' ? -1 : 1)]
  }
  const ids = props.layout.ways.flatMap((w) => (key === 'ArrowLeft' ? (w.to === b.id ? [w.from] : []) : w.from === b.id ? [w.to] : []))
  return ids.flatMap((id) => byBox.value.get(id) ?? []).sort((x, y) => mid(x) - mid(y))[0]
}
async function show(id: string) {
  focused.value = id
  await nextTick()
  svg.value?.querySelector<SVGElement>(`[data-box="${CSS.escape(id)}"]`)?.scrollIntoView({ block: 'nearest' })
}
async function key(event: KeyboardEvent, b: Box) {
  if (event.altKey || event.ctrlKey || event.metaKey) return
  if (event.key === 'Enter' || event.key === ' ') press(b)
  else if (event.key === 'Escape' && props.leading) emit('cancel')
  else if (event.key.startsWith('Arrow')) {
    const to = next(b, event.key)
    if (!to) return
    focused.value = to.id
    await nextTick()
    svg.value?.querySelector<SVGElement>(`[data-box="${CSS.escape(to.id)}"]`)?.focus()
  } else return
  event.preventDefault()
  event.stopPropagation()
}
function words(b: Box): string {
  if (!b.node) return `${b.place}, folded: ${b.holds.length} things, ${sum(b)} W. Enter opens it.`
  const n = b.node
  const kind = n.kind === 'device' ? '' : `, ${n.kind === 'ups' ? 'UPS' : n.kind === 'pdu' ? 'PDU' : n.kind}`
  const by = n.fed_by.length ? `, fed by ${n.fed_by.join(' and ')}` : ''
  const more = n.kind === 'device' ? note(n) : under(n)
  return `${n.name}${kind}: ${load(n)} ${levelWords[props.level]}${by}${more ? `, ${more}` : ''}`
}
const supplyWords = (n: PowerNode, s: Schemas['PowerSupply']) =>
  `Supply ${s.port} of ${n.name}, ${s.fed ? 'plugged in' : 'plugged in nowhere'}: lead it to an outlet`
const leads = (n: PowerNode, port: string) => props.leading?.device_id === n.id && props.leading.port === port
</script>

<template>
  <svg
    ref="svg"
    class="feeds"
    :width="layout.width"
    :height="layout.height"
    :viewBox="`0 0 ${layout.width} ${layout.height}`"
    role="group"
    aria-label="What feeds what"
    @pointermove="move"
    @pointerup="drop"
    @pointercancel="letGo">
    <text v-for="h in layout.heads" :key="h.column" :x="h.x + 2" y="14" class="head">{{ names[h.column] }}</text>
    <g aria-hidden="true">
      <path
        v-for="w in layout.ways"
        :key="w.id"
        :d="pathOf(w)"
        class="way"
        :class="{ lit: lit.has(w.id), dim: lit.size && !lit.has(w.id), dead: deadWay(w), poe: w.poe, trunk: !w.in }"
        :stroke="w.poe ? 'var(--soft)' : look(w).colour"
        :stroke-dasharray="w.poe ? '2 3' : w.filtered ? '1 3' : look(w).dash || undefined" />
    </g>
    <g
      v-for="b in layout.boxes"
      :key="b.id"
      class="box"
      :class="[
        b.column,
        b.node && stateOf(b.node),
        {
          picked: b.node?.id === picked,
          off: b.node?.state && b.node.state !== 'running',
          bad: b.node && (tight(b.node) || bad(b.node)),
          may: b.node && may.has(b.node.id),
        },
      ]"
      :transform="`translate(${b.x} ${b.y})`"
      :data-box="b.id"
      :data-feeder="b.node && b.node.kind !== 'device' ? b.node.id : undefined"
      role="button"
      :tabindex="b.id === first ? 0 : -1"
      :aria-label="words(b)"
      :aria-pressed="b.node?.id === picked"
      @click="press(b)"
      @focus="focused = b.id"
      @keydown="key($event, b)">
      <title>{{ words(b) }}</title>
      <rect :width="b.w" :height="b.h" rx="2.5" class="body" />
      <template v-if="b.column === 'fed'">
        <template v-if="b.node">
          <text x="29" y="18" class="name">{{ short(b.node.name, titleRoom(b, loadWords(b))) }}</text>
          <text :x="b.w - 7" y="18" class="watts end" :class="{ asked: b.node.watts[level] === undefined }">
            {{ loadWords(b) }}
          </text>
          <text v-if="b.h > headHigh + 8 && note(b.node)" x="29" :y="18 + supplyHigh" class="note" :class="{ wrong: bad(b.node) }">
            {{ short(note(b.node), Math.floor((b.w - 34) / 5.4)) }}
          </text>
        </template>
        <template v-else>
          <text x="9" y="18" class="name">{{ short(b.place ?? '', titleRoom(b, sum(b) + '      ')) }} · {{ b.holds.length }}</text>
          <text :x="b.w - 7" y="18" class="watts end">{{ sum(b) }} W</text>
        </template>
      </template>
      <template v-else-if="b.node">
        <text x="8" y="17" class="name">{{ short(b.node.name, titleRoom(b, rating(b.node))) }}</text>
        <text :x="b.w - 8" y="17" class="kind end">{{ rating(b.node) }}</text>
        <g transform="translate(8 25)">
          <rect :width="vialWide(b)" height="8" rx="4" class="glass" />
          <rect
            v-if="filled(b.node)"
            :width="Math.max(5, vialWide(b) * filled(b.node))"
            height="8"
            rx="4"
            class="liquid"
            :class="{ full: isFull(b.node) }" />
          <path v-if="b.node.full[level] !== undefined" :d="`M${vialWide(b) / beyond} -2.5v13`" class="limit" />
        </g>
        <text v-if="b.column !== 'strips'" x="8" y="51" class="watts" :class="{ asked: b.node.watts[level] === undefined }">
          {{ load(b.node) }}
        </text>
        <text v-if="b.column === 'battery'" x="8" y="69" class="note">{{ under(b.node) }}</text>
        <template v-if="b.column === 'strips'">
          <text :x="b.w - 8" y="50" class="watts small end" :class="{ asked: b.node.watts[level] === undefined }">
            {{ wattsOf(b.node, level) }} W
          </text>
          <rect
            v-for="(o, i) in pins(b).slice(0, 9)"
            :key="o.port"
            :x="8 + i * 8"
            y="42"
            width="6"
            height="8"
            class="pin"
            :class="{ free: !o.to }" />
        </template>
      </template>
    </g>
    <template v-for="b in layout.boxes" :key="`in ${b.id}`">
      <template v-if="b.column === 'fed' && b.node">
        <rect
          v-for="(s, i) in b.node.supplies"
          :key="s.port"
          :x="b.x + 4"
          :y="b.y + 3 + i * supplyHigh"
          width="20"
          height="20"
          class="supply"
          :class="{ loose: !s.fed, led: leads(b.node, s.port), still: !!lost }"
          role="button"
          tabindex="-1"
          :data-supply="`${b.node.name}/${s.port}`"
          :aria-label="supplyWords(b.node, s)"
          @click.stop
          @pointerdown.stop="grab($event, b.node.id, s.port)">
          <title>{{ supplyWords(b.node, s) }}</title>
        </rect>
      </template>
    </template>
    <path ref="rubber" d="" class="rubber" />
  </svg>
</template>

<style scoped>
.feeds {
  display: block;
  user-select: none;
}
text {
  font: 400 12px var(--names);
  fill: var(--ink);
}
.head {
  fill: var(--soft);
  font-size: 13px;
}
.end {
  text-anchor: end;
}
.name {
  font-weight: 600;
  font-size: 14px;
}
.kind {
  font-size: 12px;
  fill: var(--soft);
}
.watts {
  font: 400 12px var(--figures);
}
.note {
  font-size: 12px;
  fill: var(--soft);
}
.body {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.2;
}
.fed .body {
  fill: var(--boxdark);
  stroke: none;
}
.fed .name,
.fed .watts,
.fed .note {
  fill: var(--boxink);
}
.fed.off .body {
  fill: var(--boxdim);
}
.fed .asked,
.fed .wrong {
  fill: var(--boxink);
  text-decoration: underline dotted;
}
.asked {
  fill: var(--red);
}
.box {
  cursor: pointer;
}
.box:focus {
  outline: none;
}
.box:focus-visible .body,
.box:hover .body {
  stroke: var(--water);
  stroke-width: 2.5;
}
.bad .body {
  stroke: var(--red);
  stroke-width: 2;
}
.picked .body {
  stroke: var(--red);
  stroke-width: 2.5;
}
.may .body {
  stroke: var(--water);
  stroke-width: 3;
}
.lost .body {
  stroke-dasharray: 5 3;
  stroke: var(--red);
}
.dark .body {
  fill: var(--sheet);
  stroke: var(--red);
  stroke-dasharray: 3 2;
}
.dark .name,
.dark .watts,
.dark .note {
  fill: var(--red);
  text-decoration: none;
}
.over .body {
  stroke: var(--red);
  stroke-width: 3;
}
.supply {
  fill: var(--box);
  stroke: var(--brass);
  stroke-width: 1.5;
  cursor: grab;
  pointer-events: all;
  touch-action: none;
}
.supply.loose {
  fill: none;
  stroke: var(--boxink);
  stroke-dasharray: 3 2;
}
.supply.still {
  pointer-events: none;
}
.supply:hover,
.supply.led {
  fill: var(--water);
}
.glass {
  fill: var(--strip);
  stroke: var(--soft);
  stroke-width: 0.8;
}
.liquid {
  fill: var(--brass);
}
.liquid.full {
  fill: var(--red);
}
.limit {
  stroke: var(--red);
  stroke-width: 1.8;
}
.pin {
  fill: var(--brass);
  stroke: var(--brass);
}
.pin.free {
  fill: none;
}
.way {
  fill: none;
  stroke-width: 1.8;
}
.way.trunk {
  stroke-width: 2.6;
}
.way.dim {
  opacity: 0.35;
}
.way.lit {
  stroke-width: 3;
}
.way.dead {
  stroke: var(--rule);
}
.rubber {
  stroke: var(--red);
  stroke-width: 2.5;
  stroke-dasharray: 5 3;
  fill: none;
  pointer-events: none;
}
</style>
