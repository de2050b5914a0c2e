<script setup lang="ts">
// The map as it is drawn: strata, boxes, and between them bundles of strands, one
// a VLAN. It is moved and enlarged by pointer, wheel and keys.
import { useElementSize } from '@vueuse/core'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { bundleWide, mostNames, pitch, rowHigh, type Layout, type Placed, type Run } from '../../draw/network/layout'
import { besideTitle, rests, strata } from '../../draw/network/graph'
import { beside, middle, pathOf } from '../../draw/network/strands'
import type { Schemas } from '../../api/client'
import { label, look, type NetLens } from './lenses'

const props = defineProps<{
  layout: Layout
  vlans: Schemas['GridVLAN'][]
  lens: NetLens
  /** The VLAN that is lit, by its place in the list. */
  lit: number
  picked: string
  pickedRun: string
  /** The way that is lit, by its devices and its cables. */
  way: ReadonlySet<string>
  /** What is written below devices: their addresses, where those are looked at. */
  below: ReadonlyMap<string, string>
}>()
const emit = defineEmits<{ pick: [id: string]; to: [id: string]; run: [run: Run]; open: [box: Placed]; clear: [] }>()

const frame = ref<HTMLElement>()
const svg = ref<SVGSVGElement>()
defineExpose({ svg, fit, show, focusOn })

const { width, height } = useElementSize(frame)
// Where it is looked at: the drawing's own measures times k, from x and y on.
const at = ref({ x: 0, y: 0, k: 1 })
const names = { outside: 'Outside', edge: 'Edge', core: 'Core', access: 'Access', things: 'Things' }
/** A band for each stratum that has something in it. */
const bands = computed(() => {
  const has = strata
    .map((s) => ({ s, boxes: props.layout.boxes.filter((b) => b.stratum === s) }))
    .filter((b) => b.boxes.length)
    .map(({ s, boxes }) => ({ name: names[s], top: Math.min(...boxes.map((b) => b.y)), foot: Math.max(...boxes.map((b) => b.y + b.h)) }))
  return has.map((b, i) => {
    const [above, below] = [has[i - 1], has[i + 1]]
    const y = above ? (above.foot + b.top) / 2 : b.top - 26
    const end = below ? (b.foot + below.top) / 2 : b.foot + 22
    return { name: b.name, y, h: end - y }
  })
})
const high = computed(() => bands.value.reduce((sum, b) => sum + b.h, 0))
const top = computed(() => bands.value[0]?.y ?? 0)

/** The whole of it, as long as it can be read; its upper left otherwise. */
function fit() {
  if (!width.value) return
  const k = Math.min(1.3, Math.max(0.8, Math.min((width.value - 16) / props.layout.width, (height.value - 34) / high.value)))
  at.value = { k, x: Math.max(8, (width.value - props.layout.width * k) / 2), y: 6 - top.value * k }
}
/** Until one moves it oneself, it fits. */
let own = false
watch(
  [() => props.layout, width, height],
  ([now], [before]) => {
    if (own && before && Math.abs(now.width - before.width) < before.width / 4) return
    own = false
    fit()
  },
  { immediate: true },
)

function zoom(by: number, cx?: number, cy?: number) {
  own = true
  const { x, y, k } = at.value
  const next = Math.min(2.5, Math.max(0.3, k * by))
  const [px, py] = [cx ?? width.value / 2, cy ?? height.value / 2]
  at.value = { k: next, x: px - ((px - x) * next) / k, y: py - ((py - y) * next) / k }
}
function wheel(event: WheelEvent) {
  const room = frame.value?.getBoundingClientRect()
  if (event.ctrlKey || event.metaKey)
    zoom(Math.exp(-event.deltaY / 300), event.clientX - (room?.left ?? 0), event.clientY - (room?.top ?? 0))
  else {
    own = true
    at.value = { ...at.value, x: at.value.x - event.deltaX, y: at.value.y - event.deltaY }
  }
}
let from: { x: number; y: number; at: { x: number; y: number; k: number }; moved: boolean } | undefined
function down(event: PointerEvent) {
  if (event.button) return
  from = { x: event.clientX, y: event.clientY, at: at.value, moved: false }
}
function move(event: PointerEvent) {
  if (!from) return
  const [dx, dy] = [event.clientX - from.x, event.clientY - from.y]
  if (!from.moved && Math.hypot(dx, dy) < 4) return
  if (!from.moved) frame.value?.setPointerCapture(event.pointerId)
  from.moved = own = true
  at.value = { ...from.at, x: from.at.x + dx, y: from.at.y + dy }
}
function up() {
  if (from && !from.moved) emit('clear')
  from = undefined
}

/** Brings a box into sight. */
function show(id: string) {
  const box = props.layout.boxes.find((b) => b.id === id || b.holds.some((n) => n.id === id))
  if (!box) return
  const { k } = at.value
  const [x, y] = [at.value.x + box.x * k, at.value.y + box.y * k]
  if (x < 0 || y < 0 || x + box.w * k > width.value || y + box.h * k > height.value)
    at.value = { k, x: width.value / 2 - (box.x + box.w / 2) * k, y: height.value / 2 - (box.y + box.h / 2) * k }
}

// Arrows go along links: up and down to what a box is linked to, left and right
// to its neighbours in the same stratum.
const focused = ref('')
const byId = computed(() => new Map(props.layout.boxes.map((b) => [b.id, b])))
const first = computed(
  () => byId.value.get(focused.value)?.id ?? props.layout.boxes.find((b) => b.stratum === 'core')?.id ?? props.layout.boxes[0]?.id,
)
const mid = (b: Placed) => b.x + b.w / 2
function next(box: Placed, key: string): Placed | undefined {
  if (key === 'ArrowLeft' || key === 'ArrowRight') {
    const row = props.layout.boxes.filter((b) => b.stratum === box.stratum).sort((a, b) => mid(a) - mid(b))
    return row[row.indexOf(box) + (key === 'ArrowLeft' ? -1 : 1)]
  }
  const linked = props.layout.runs
    .flatMap((r) => (r.a === box.id ? [r.b] : r.b === box.id ? [r.a] : []))
    .flatMap((id) => byId.value.get(id) ?? [])
  return linked
    .filter((b) => (key === 'ArrowUp' ? b.y < box.y : b.y > box.y))
    .sort((a, b) => Math.abs(mid(a) - mid(box)) - Math.abs(mid(b) - mid(box)))[0]
}
async function focusOn(id: string) {
  focused.value = id
  show(id)
  await nextTick()
  svg.value?.querySelector<SVGElement>(`[data-box="${CSS.escape(id)}"]`)?.focus()
}
function key(event: KeyboardEvent, box: Placed) {
  if (event.altKey || event.ctrlKey || event.metaKey) return
  if (event.key === '+' || event.key === '-' || event.key === '=') zoom(event.key === '-' ? 0.8 : 1.25)
  else if (event.key === 'Home') fit()
  else if (event.key === 'Enter' || event.key === ' ') press(box, event.shiftKey)
  else if (event.key.startsWith('Arrow')) {
    const to = next(box, event.key)
    if (to) void focusOn(to.id)
  } else return
  event.preventDefault()
}
/** Picks a device; with Shift it is where the way from the one that is picked leads. */
function press(box: Placed, shift: boolean) {
  focused.value = box.id
  const only = box.gathers ? undefined : box.holds[0]
  if (only) choose(only.id, shift)
  else emit('open', box)
}
function choose(id: string, shift: boolean) {
  if (shift && props.picked && props.picked !== id) emit('to', id)
  else emit('pick', id)
}
/** How many are cut off without a box, where that is looked at. */
const cutsAt = (b: Placed) => (props.lens === 'threads' && !b.gathers ? (b.holds[0]?.cuts_off ?? 0) : 0)

/** Where the lit VLAN reaches. */
const reached = computed(() => {
  const at = new Map<string, boolean>() // whether it is cut off there
  if (props.lit < 0) return at
  for (const r of props.layout.runs) {
    for (const l of r.links) {
      const s = l.strands.find((x) => x.vlan === props.lit)
      if (s) for (const id of [l.a_device_id, l.b_device_id]) at.set(id, s.piece > 0)
    }
  }
  return at
})
const dim = (b: Placed) =>
  props.lens === 'subnets'
    ? !b.holds.some((n) => props.below.has(n.id))
    : props.way.size
      ? !b.holds.some((n) => props.way.has(n.id))
      : props.lit >= 0 && !b.holds.some((n) => reached.value.has(n.id))
const cut = (b: Placed) => !b.gathers && b.holds.some((n) => reached.value.get(n.id))
const hex = (vlan: number) => props.vlans[vlan]?.hex ?? 'var(--soft)'

interface DrawnLine {
  d: string
  colour: string
  dash?: string
  faint: boolean
}
/** The boxes come in one frame and what is between them in the next, so that neither takes long. */
const linked = ref(false)
onMounted(() => requestAnimationFrame(() => (linked.value = true)))
const drawn = computed(() =>
  (linked.value ? props.layout.runs : [])
    .filter((r) => r.points.length > 1)
    .map((r) => {
      const wide = bundleWide(r)
      const quiet = rests(r)
      const airy = r.links.every((l) => l.air)
      const lines: DrawnLine[] = []
      if (props.lens === 'vlans') {
        r.strands.forEach((s, i) => {
          const off = (i - (r.strands.length - 1) / 2) * pitch
          lines.push({
            d: pathOf(beside(r.points, off)),
            colour: hex(s.vlan),
            ...(airy ? { dash: '2 4' } : s.tagged ? { dash: '6 3' } : {}),
            faint: props.lit >= 0 && s.vlan !== props.lit,
          })
        })
      }
      return {
        run: r,
        id: r.id,
        airy,
        d: pathOf(r.points),
        wide,
        quiet,
        lines,
        look: look(props.lens, r),
        spot: middle(r.points),
        says: label(props.lens, r),
        on: r.links.some((l) => props.way.has(l.cable_id ?? '')),
      }
    }),
)
/** What is said of links, over all that is drawn: beside their lower ends, where there are many. */
const labelled = computed(() =>
  drawn.value
    .filter((r) => r.says)
    .map((r) => {
      const end = r.run.points.at(-1) ?? { x: 0, y: 0 }
      const low = props.lens === 'speed' || props.lens === 'poe'
      const at = low
        ? { x: end.x + 5, y: end.y - 5 }
        : { x: r.spot.x + (r.spot.upright ? r.wide / 2 + 5 : -14), y: r.spot.y + (r.spot.upright ? 4 : -r.wide / 2 - 4) }
      const dim = props.lit >= 0 && !r.run.strands.some((s) => s.vlan === props.lit)
      return { id: r.id, says: r.says, at, dim, known: low && r.says !== '?' }
    }),
)
const runWords = (r: Run) =>
  r.links
    .map((l) => `${titles.value.get(l.a_device_id)}/${l.a_port} – ${titles.value.get(l.b_device_id)}/${l.b_port}`)
    .slice(0, 4)
    .join(', ') + (r.links.length > 4 ? ` and ${r.links.length - 4} more` : '')
const titles = computed(() => new Map(props.layout.boxes.flatMap((b) => b.holds.map((n) => [n.id, n.title] as const))))
const rows = (b: Placed) => b.holds.slice(0, mostNames)
const columns = (b: Placed) => (rows(b).length > 6 ? 2 : 1)
const nameX = (b: Placed, i: number) => 9 + (i % columns(b)) * ((b.w - 10) / columns(b))
const nameY = (b: Placed, i: number) => 34 + Math.floor(i / columns(b)) * rowHigh
const boxWords = (b: Placed) =>
  b.gathers
    ? `${b.gathers === 'place' ? `${b.title}, folded` : 'gathered'}: ${b.holds.map((n) => n.title).join(', ')}. Enter opens it.`
    : `${b.title}, ${b.holds[0]?.kind}${b.root ? ', root of the spanning tree' : ''}${cut(b) ? ', cut off' : ''}${
        b.holds[0]?.cuts_off ? `, cuts off ${b.holds[0].cuts_off}` : ''
      }`
</script>

<template>
  <div
    ref="frame"
    class="map"
    data-scroll
    @wheel.prevent="wheel"
    @pointerdown="down"
    @pointermove="move"
    @pointerup="up"
    @pointercancel="from = undefined">
    <svg
      ref="svg"
      class="drawing"
      :viewBox="`${-at.x / at.k} ${-at.y / at.k} ${(width || 700) / at.k} ${(height || 500) / at.k}`"
      role="group"
      aria-label="Map of the network">
      <g v-for="(b, i) in bands" :key="b.name" aria-hidden="true">
        <rect :x="-4000" :y="b.y" :width="9000" :height="b.h" :class="i % 2 ? 'band odd' : 'band'" />
        <text :x="Math.max(2, -at.x / at.k + 8)" :y="b.y + 15" class="stratum">{{ b.name }}</text>
      </g>
      <g
        v-for="r in drawn"
        :key="r.id"
        class="run"
        :class="{ picked: r.id === pickedRun, way: r.on, dim: way.size ? !r.on : lit >= 0 && !r.run.strands.some((s) => s.vlan === lit) }"
        @pointerdown.stop
        @click="emit('run', r.run)">
        <title>{{ runWords(r.run) }}</title>
        <path :d="r.d" class="reach" />
        <template v-if="lens === 'vlans'">
          <path :d="r.d" class="rim" :class="{ airy: r.airy }" :stroke-width="r.airy ? 1.5 : r.wide + 2" />
          <path v-if="!r.airy" :d="r.d" class="ribbon" :stroke-width="r.wide" />
          <path
            v-for="(l, i) in r.lines"
            :key="i"
            :d="l.d"
            class="strand"
            :class="{ faint: l.faint }"
            :stroke="l.colour"
            :stroke-dasharray="l.dash" />
          <path v-if="r.quiet || r.run.links.every((l) => l.down)" :d="r.d" class="resting" />
        </template>
        <path v-else :d="r.d" class="strand" :stroke="r.look.colour" :stroke-width="r.look.width" :stroke-dasharray="r.look.dash" />
      </g>
      <g
        v-for="b in layout.boxes"
        :key="b.id"
        class="box"
        :class="[
          b.stratum,
          {
            gathers: b.gathers,
            picked: b.holds.some((n) => n.id === picked) && !b.gathers,
            dim: dim(b),
            off: !b.gathers && b.holds[0]?.state !== 'running',
          },
        ]"
        :transform="`translate(${b.x} ${b.y})`"
        :data-box="b.id"
        role="button"
        :tabindex="b.id === first ? 0 : -1"
        :aria-label="boxWords(b)"
        :aria-pressed="!b.gathers && b.holds.some((n) => n.id === picked)"
        @pointerdown.stop
        @click.stop="press(b, $event.shiftKey)"
        @focus="focused = b.id"
        @keydown="key($event, b)">
        <rect :width="b.w" :height="b.h" rx="2" class="body" />
        <template v-if="b.gathers">
          <text x="9" y="16" class="head">{{ b.gathers === 'place' ? b.title : `${b.holds.length} things` }}</text>
          <text :x="b.w - 8" y="16" class="kind end">+</text>
          <text
            v-for="(n, i) in rows(b)"
            :key="n.id"
            :x="nameX(b, i)"
            :y="nameY(b, i)"
            class="name"
            :class="{
              dim: lens === 'subnets' ? !below.has(n.id) : way.size ? !way.has(n.id) : lit >= 0 && !reached.has(n.id),
              here: n.id === picked,
              cut: reached.get(n.id),
              off: n.state !== 'running',
            }"
            @click.stop="choose(n.id, $event.shiftKey)">
            {{ n.title }}
          </text>
          <text v-if="b.holds.length > mostNames" x="9" :y="b.h - 7" class="kind">and {{ b.holds.length - mostNames }} more</text>
        </template>
        <template v-else>
          <text :x="b.stratum === 'things' ? b.w / 2 : 9" :y="b.h / 2 + 5" class="title" :class="{ mid: b.stratum === 'things' }">
            {{ b.title }}
          </text>
          <text v-if="b.stratum !== 'things'" :x="b.w - 8" :y="b.h / 2 + 4" class="kind end">
            {{ cutsAt(b) ? `cuts ${cutsAt(b)}` : besideTitle(b) }}
          </text>
          <text v-if="!b.gathers && below.get(b.holds[0]?.id ?? '')" :x="b.w / 2" :y="b.h + 13" class="address">
            {{ below.get(b.holds[0]?.id ?? '') }}
          </text>
          <text v-if="cut(b)" :x="b.stratum === 'things' ? b.w / 2 : 30" :y="b.h + 14" class="says mid">◆ cut off</text>
        </template>
      </g>
      <g class="labels" aria-hidden="true">
        <text v-for="r in labelled" :key="r.id" :x="r.at.x" :y="r.at.y" class="says" :class="{ known: r.known, dim: r.dim }">
          {{ r.says }}
        </text>
      </g>
    </svg>
    <p class="legend" aria-hidden="true">
      <template v-if="lens === 'vlans'">
        <svg width="30" height="8"><path d="M1 4H29" /></svg> untagged
        <svg width="30" height="8"><path d="M1 4H29" stroke-dasharray="6 3" /></svg> tagged
        <svg width="30" height="8"><path d="M1 4H29" stroke-dasharray="2 4" /></svg> air
      </template>
      <svg v-if="lens === 'vlans' || lens === 'rests'" width="30" height="8" class="red"><path d="M1 4H29" stroke-dasharray="2 5" /></svg>
      <template v-if="lens === 'vlans' || lens === 'rests'"> rests</template>
      <template v-if="lens === 'threads'">
        <svg width="30" height="8" class="red"><path d="M1 4H29" stroke-width="3" /></svg> cuts off more than one device
        <svg width="30" height="8" class="water"><path d="M1 4H29" stroke-width="3" /></svg> another one takes over
      </template>
      <template v-if="lens === 'speed'">in Mb/s and Gb/s: the faster, the wider; red dashes: unknown</template>
      <span v-if="picked && !way.size" class="hint">Shift + click another device for the way to it</span>
    </p>
    <div class="zoom">
      <button aria-label="Larger" title="Larger ( + )" @pointerdown.stop @click.stop="zoom(1.25)">+</button>
      <button aria-label="Smaller" title="Smaller ( − )" @pointerdown.stop @click.stop="zoom(0.8)">−</button>
      <button aria-label="Whole map" title="Whole map ( Home )" @pointerdown.stop @click.stop="fit">▣</button>
    </div>
  </div>
</template>

<style scoped>
.map {
  position: relative;
  flex: 1;
  min-height: 0;
  margin: 0 18px 8px;
  overflow: hidden;
  background: var(--sheet);
  border: 1px solid var(--ink);
  cursor: grab;
  touch-action: none;
  user-select: none;
}
.map:active {
  cursor: grabbing;
}
.drawing {
  display: block;
  width: 100%;
  height: 100%;
}
.band {
  fill: var(--sheet);
}
.band.odd {
  fill: color-mix(in srgb, var(--strip) 45%, var(--sheet));
}
.address {
  font: 400 12px var(--figures);
  fill: var(--ink);
  stroke: var(--sheet);
  stroke-width: 3px;
  paint-order: stroke;
  text-anchor: middle;
}
.stratum {
  font: 500 12px var(--names);
  fill: var(--soft);
}
path {
  fill: none;
  stroke-linejoin: round;
}
.run {
  cursor: pointer;
}
.reach {
  stroke: transparent;
  stroke-width: 16;
}
.rim {
  stroke: var(--rule);
}
.ribbon {
  stroke: var(--paper);
}
.run.picked .rim,
.run:hover .rim {
  stroke: var(--ink);
}
.run.picked .rim {
  stroke: var(--red);
}
.run.picked .reach {
  stroke: color-mix(in srgb, var(--red) 25%, transparent);
}
.run.way .rim,
.run.way .reach {
  stroke: color-mix(in srgb, var(--water) 40%, transparent);
}
.strand {
  stroke-width: 2.2;
}
.strand.faint {
  opacity: 0.14;
}
.rim.airy {
  stroke: var(--soft);
  stroke-dasharray: 2 4;
}
.resting {
  stroke: var(--red);
  stroke-width: 1.6;
  stroke-dasharray: 2 5;
}
.run.dim {
  opacity: 0.35;
}
.says {
  font: 500 12px var(--sentences);
  fill: var(--red);
  paint-order: stroke;
  stroke: var(--sheet);
  stroke-width: 3px;
}
.says.known {
  fill: var(--ink);
}
.says.dim {
  opacity: 0.35;
}
.labels {
  pointer-events: none;
}
.box {
  cursor: pointer;
}
.body {
  fill: var(--sheet);
  stroke: var(--ink);
}
.box:is(.edge, .core, .access):not(.gathers) .body {
  fill: var(--box);
  stroke: var(--boxedge);
}
.box.off .body {
  stroke-dasharray: 3 2;
}
.title,
.head {
  font: 600 13px var(--names);
  fill: var(--ink);
}
.box:is(.edge, .core, .access):not(.gathers) .title {
  fill: var(--boxink);
}
.kind {
  font: 400 12px var(--sentences);
  fill: var(--soft);
}
.box:is(.edge, .core, .access):not(.gathers) .kind {
  fill: var(--boxink);
  opacity: 0.85;
}
.name {
  font: 500 13px var(--names);
  fill: var(--ink);
}
.name:hover,
.name.here {
  text-decoration: underline;
}
.name.off {
  font-style: italic;
}
.name.cut {
  fill: var(--red);
}
.name.dim {
  opacity: 0.35;
}
.end {
  text-anchor: end;
}
.mid {
  text-anchor: middle;
}
.box.dim:not(.gathers) {
  opacity: 0.35;
}
.box.picked .body {
  stroke: var(--red);
  stroke-width: 2.5;
}
.box:focus-visible {
  outline: none;
}
.box:focus-visible .body {
  stroke: var(--water);
  stroke-width: 3;
}
.legend {
  position: absolute;
  left: 1px;
  bottom: 1px;
  padding: 2px 10px 5px;
  background: var(--sheet);
  font-size: 12px;
  color: var(--soft);
  pointer-events: none;
}
.legend svg {
  margin: 0 3px 1px 10px;
}
.legend svg:first-child {
  margin-left: 0;
}
.legend path {
  stroke: var(--ink);
  stroke-width: 2.2;
}
.hint {
  margin-left: 18px;
}
.legend .water path {
  stroke: var(--water);
}
.legend .red path {
  stroke: var(--red);
}
.zoom {
  position: absolute;
  right: 8px;
  bottom: 8px;
  display: flex;
  flex-direction: column;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
}
.zoom button {
  width: 28px;
  height: 28px;
  font: 500 15px var(--figures);
}
.zoom button + button {
  border-top: 1px solid var(--rule);
}
@media (max-width: 700px) {
  .map {
    margin: 0 10px 6px;
  }
  .zoom button {
    width: 44px;
    height: 44px;
  }
}
</style>
