<script setup lang="ts">
// A subnet as a measuring tape: lengths of 32 graduations, who has one named above
// it. Arrow keys go along it, Enter picks; a fixed or reserved address can be dragged
// to a free graduation.
import { useElementSize } from '@vueuse/core'
import { computed, nextTick, ref, useId, watch } from 'vue'
import type { Schemas } from '../../api/client'
import { labels, plus, tail } from '../../draw/ruler'
import type { RulerMark } from '../../work/useAddresses'

const props = defineProps<{ ruler: Schemas['Ruler']; picked: string; still?: boolean }>()
const emit = defineEmits<{ pick: [address: string]; into: [prefix: string]; move: [mark: RulerMark, to: string] }>()

const room = ref<HTMLElement>()
const { width } = useElementSize(room)
const margin = 48
const high = 47
const tape = { y: 26, h: 18 }
const per = 32
const step = computed(() => Math.max(9, Math.min(18, Math.floor((width.value - margin - 8) / per))))
const id = useId()

const one = computed(() => props.ruler.each === 1)
const bits = computed(() => 32 - Math.log2(props.ruler.each))
const titleOf = (m: RulerMark) => (one.value ? m.had.map((h) => h.title).join(', ') : `${m.n}`)

interface Cell {
  at: number
  address: string
  mark?: RulerMark
  off: boolean
  handed: boolean
  says: string
}
const rows = computed(() => {
  const marks = new Map(props.ruler.marks.map((m) => [m.length * per + m.at, m]))
  return props.ruler.lengths.map((l, row) => {
    const cells: Cell[] = Array.from({ length: l.graduations }, (_, at) => {
      const mark = marks.get(row * per + at)
      const address = plus(l.from, at * props.ruler.each)
      const off = l.off.includes(at)
      const handed = l.handed_out.some(([a, b]) => (a ?? 0) <= at && at <= (b ?? -1))
      return { at, address, ...(mark ? { mark } : {}), off, handed, says: says(address, mark, off, handed) }
    })
    const named = cells.flatMap((c) => (c.mark && one.value ? [{ at: c.at, text: titleOf(c.mark) }] : []))
    const scale = one.value
      ? tail(l.from)
      : l.from
          .split('.')
          .slice(0, Math.ceil(bits.value / 8))
          .join('.')
    return { ...l, row, cells, labels: labels(named, step.value, per * step.value + 20), scale }
  })
})

function says(address: string, m: RulerMark | undefined, off: boolean, handed: boolean): string {
  if (!one.value) return `${address}/${bits.value}: ${m ? `${m.n} had` : 'nobody'}${handed ? ', handed out' : ''}`
  if (m) {
    const who = m.had.map((h) => h.title).join(' and ')
    const how = m.had[0]?.gateway ? ', the gateway' : m.had[0]?.how === 'reserved' ? ', reserved' : ''
    return `${address}: ${who}${m.twice ? ', twice' : how}`
  }
  if (off) return `${address}: no device may have it`
  return `${address}: ${handed ? 'handed out' : address === props.ruler.next_free ? 'free, the next one' : 'free'}`
}

/** Where the keys are, by the number of the graduation. */
const cursor = ref(0)
const all = computed(() => rows.value.flatMap((r) => r.cells))
watch(
  () => [props.ruler.within, props.picked],
  () => {
    const at = all.value.findIndex((c) => c.address === props.picked)
    cursor.value = at >= 0 ? at : Math.min(cursor.value, Math.max(0, all.value.length - 1))
  },
  { immediate: true },
)
async function go(to: number) {
  cursor.value = Math.max(0, Math.min(all.value.length - 1, to))
  await nextTick()
  room.value?.querySelector<SVGElement>(`[data-at="${cursor.value}"]`)?.focus()
}
function key(event: KeyboardEvent) {
  const by: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -per, ArrowDown: per }
  const way = by[event.key]
  if (event.ctrlKey || event.altKey || event.metaKey) return
  if (way !== undefined) void go(cursor.value + way)
  else if (event.key === 'Home') void go(0)
  else if (event.key === 'End') void go(all.value.length - 1)
  else if (event.key === 'Enter' || event.key === ' ') pick(all.value[cursor.value])
  else return
  event.preventDefault()
}
function pick(c: Cell | undefined) {
  if (!c) return
  if (!one.value) return emit('into', `${c.address}/${bits.value}`)
  if (!c.off) emit('pick', c.address)
}

/** An address on its way to another graduation. */
const dragged = ref<{ mark: RulerMark; to: string }>()
let from: Cell | undefined
const movable = (m: RulerMark | undefined) => !props.still && one.value && m?.n === 1 && !!m.had[0]?.device_id && !m.had[0].gateway
function down(c: Cell, event: PointerEvent) {
  if (event.button !== 0 || event.pointerType === 'touch') return
  from = c
}
function over(event: PointerEvent) {
  if (!from?.mark || !(event.buttons & 1) || !movable(from.mark)) return
  const at = Number((document.elementFromPoint(event.clientX, event.clientY) as SVGElement | null)?.dataset['at'] ?? -1)
  const c = all.value[at]
  if (c && c !== from) dragged.value = { mark: from.mark, to: c.mark || c.off ? '' : c.address }
}
function up() {
  const d = dragged.value
  dragged.value = undefined
  if (d?.to) emit('move', d.mark, d.to)
  else if (!d && from) pick(from)
  from = undefined
}
</script>

<template>
  <div ref="room" class="tape" @pointermove="over" @pointerup="up" @pointercancel="((dragged = undefined), (from = undefined))">
    <svg
      v-if="width"
      :width="margin + per * step + 8"
      :height="rows.length * high + 6"
      role="grid"
      :aria-label="`Ruler of ${ruler.within}`"
      @keydown="key">
      <defs>
        <pattern :id="`${id}h`" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0v5" class="hatch" />
        </pattern>
      </defs>
      <g v-for="r in rows" :key="r.from" role="row" :transform="`translate(${margin} ${r.row * high})`">
        <text class="scale" x="-6" :y="tape.y + tape.h / 2" text-anchor="end" aria-hidden="true">{{ r.scale }}</text>
        <g aria-hidden="true">
          <rect class="rod" y="26" :width="r.graduations * step" :height="tape.h" />
          <rect
            v-for="[a, b] in r.handed_out as [number, number][]"
            :key="a"
            :x="a * step"
            y="26"
            :width="(b - a + 1) * step"
            height="14"
            :fill="`url(#${id}h)`" />
          <path
            v-for="n in Math.ceil(r.graduations / 8)"
            :key="n"
            :class="n % 2 ? 'ink' : 'red'"
            :d="
              [0, 2, 4, 6]
                .filter((k) => (n - 1) * 8 + k < r.graduations)
                .map((k) => `M${((n - 1) * 8 + k) * step} 40h${step}v4h${-step}z`)
                .join('')
            " />
          <path
            class="line"
            :d="
              [8, 16, 24]
                .filter((k) => k < r.graduations)
                .map((k) => `M${k * step + 0.5} 26v20`)
                .join('')
            " />
          <template v-for="c in r.cells" :key="c.at">
            <rect v-if="c.off" class="off" :x="c.at * step" y="26" :width="step" height="14" />
            <template v-if="c.mark">
              <rect
                v-if="!one"
                class="had part"
                :x="c.at * step + 1"
                :y="40 - Math.max(3, Math.min(13, Math.log2(c.mark.n + 1) * 2))"
                :width="step - 2"
                :height="Math.max(3, Math.min(13, Math.log2(c.mark.n + 1) * 2))" />
              <rect
                v-else-if="c.mark.had[0]?.how === 'reserved'"
                class="had kept"
                :x="c.at * step + 1.5"
                y="28.5"
                :width="step - 3"
                height="10" />
              <rect
                v-else-if="c.mark.had[0]?.how === 'handed_out'"
                class="had lent"
                :x="c.at * step + 1.5"
                y="28.5"
                :width="step - 3"
                height="10" />
              <rect v-else class="had" :class="{ gate: c.mark.had[0]?.gateway }" :x="c.at * step" y="26" :width="step" height="14" />
              <path v-if="c.mark.twice" class="twice" :transform="`translate(${(c.at + 0.5) * step} 33)`" d="M0 -5l5 5l-5 5l-5 -5z" />
            </template>
            <text v-if="one && c.address === ruler.next_free" class="next" :x="(c.at + 0.5) * step" y="37.5" text-anchor="middle">+</text>
          </template>
          <rect class="edge" y="26" :width="r.graduations * step" :height="tape.h" />
          <path v-for="l in r.labels" :key="`t${l.at}`" class="tick" :d="`M${l.x} ${l.level ? 11 : 22}V26`" />
          <g v-for="l in r.labels" :key="l.at" :class="{ bad: r.cells[l.at]?.mark?.twice }">
            <text class="name" :x="l.end ? l.x + 3 : l.x - 4" :y="l.level ? 9 : 20" :text-anchor="l.end ? 'end' : 'start'">
              {{ l.text }}
            </text>
          </g>
        </g>
        <rect
          v-for="c in r.cells"
          :key="c.at"
          class="cell"
          :class="{ picked: one && c.address === picked, target: dragged?.to === c.address }"
          role="gridcell"
          :tabindex="cursor === r.row * per + c.at ? 0 : -1"
          :data-at="r.row * per + c.at"
          :aria-label="c.says"
          :aria-selected="one && c.address === picked"
          :x="c.at * step"
          y="24"
          :width="step"
          height="22"
          @focus="cursor = r.row * per + c.at"
          @pointerdown="down(c, $event)"
          @click="$event.detail === 0 && pick(c)">
          <title>{{ c.says }}</title>
        </rect>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.tape {
  touch-action: pan-y;
  user-select: none;
}
svg {
  display: block;
  overflow: visible;
}
.scale {
  font: 400 12px var(--figures);
  fill: var(--soft);
  dominant-baseline: central;
}
.rod {
  fill: var(--sheet);
}
.edge {
  fill: none;
  stroke: var(--ink);
}
.ink {
  fill: var(--ink);
}
.red {
  fill: var(--red);
}
.line {
  stroke: var(--soft);
}
.hatch {
  stroke: var(--pale);
  stroke-width: 1.4;
}
.off {
  fill: var(--rule);
}
.had {
  fill: var(--pale);
}
.had.gate {
  fill: var(--ink);
}
.had.kept {
  stroke: var(--ink);
}
.had.lent {
  fill: none;
  stroke: var(--water);
  stroke-dasharray: 2 2;
}
.had.part {
  fill: var(--water);
}
.twice {
  fill: var(--red);
}
.next {
  font: 600 13px var(--figures);
  fill: var(--ink);
}
.tick {
  stroke: var(--soft);
}
.name {
  font: 500 12px var(--names);
  fill: var(--ink);
  stroke: var(--sheet);
  stroke-width: 3px;
  paint-order: stroke;
}
.bad .name {
  fill: var(--red);
}
.cell {
  fill: transparent;
  cursor: pointer;
}
.cell:hover {
  stroke: var(--soft);
}
.cell.picked {
  stroke: var(--red);
  stroke-width: 2;
}
.cell.target {
  fill: color-mix(in srgb, var(--water) 30%, transparent);
  stroke: var(--water);
}
.cell:focus-visible {
  outline: none;
  stroke: var(--water);
  stroke-width: 2;
}
</style>
