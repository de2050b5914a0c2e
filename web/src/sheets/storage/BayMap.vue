<script setup lang="ts">
// The bays of a device with what is in them, by pool, the front first. Dragging over bays,
// or the space bar on each, picks those that a new pool is to be made of.
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import { sizeWords, useStorage } from '../../work/useStorage'

const props = defineProps<{ row: Schemas['BaysRow']; picked: ReadonlySet<number>; still?: boolean }>()
const emit = defineEmits<{ pick: [bays: number[]]; pool: [id: string]; device: [] }>()
const { hueOf, pool } = useStorage()
type Bay = Schemas['BayRow']

const sides: Record<string, string> = { front: 'front', rear: 'rear', inside: 'inside', '': 'in no bay' }
const groups = computed(() =>
  Object.keys(sides)
    .map((side) => ({ side, bays: props.row.bays.filter((b) => (b.n ? (b.where ?? 'front') : '') === side) }))
    .filter((g) => g.bays.length),
)
const wide = computed(() => (props.row.bays.length > 16 ? 6 : Math.min(4, Math.max(2, props.row.bays.length))))
const head = computed(() => {
  const { filled, count, behind } = props.row
  return [`${filled} of ${count ?? '?'} bays`, behind.length ? `behind ${behind.join(', ')}` : ''].filter(Boolean).join(' · ')
})
function words(b: Bay): string {
  if (!b.part_id) return b.pool_id ? `${b.pool}: empty` : 'free'
  if (b.state === 'faulty') return 'faulty'
  return b.pool ?? 'in no pool'
}
const role = (b: Bay) => (b.role && b.role !== 'data' ? ` · ${b.role}` : '')
const says = (b: Bay) =>
  `${b.n ? `Bay ${b.n}` : 'Drive in no bay'}: ${words(b)}${b.part_id ? `, ${sizeWords(b.size_bytes)}` : ''}${role(b).replace(' · ', ', ')}`

/** The bay that a drag began at. */
const from = ref(0)
const span = (a: number, b: number) => Array.from({ length: Math.abs(a - b) + 1 }, (_, i) => Math.min(a, b) + i)
const free = (n: number) => props.row.bays.some((b) => b.n === n && b.part_id && !b.pool_id)
let moved = false
function press(b: Bay, e: PointerEvent) {
  if (props.still || !b.n || e.button) return
  moved = false
  from.value = b.n
  ;(e.target as Element).releasePointerCapture?.(e.pointerId)
}
function over(b: Bay) {
  if (!from.value || !b.n || (b.n === from.value && !moved)) return
  moved = true
  emit('pick', span(from.value, b.n).filter(free))
}
const lift = () => (from.value = 0)
function click(b: Bay) {
  if (moved) return void (moved = false)
  if (b.pool_id) emit('pool', b.pool_id)
  else if (b.n) toggle(b)
}
function toggle(b: Bay) {
  if (props.still || !b.n || !free(b.n)) return
  const now = new Set(props.picked)
  if (!now.delete(b.n)) now.add(b.n)
  emit(
    'pick',
    [...now].sort((a, c) => a - c),
  )
}
</script>

<template>
  <section class="face" :aria-label="`Bays of ${row.device}`" @pointerup="lift" @pointerleave="lift">
    <header>
      <button class="name" @click="emit('device')">{{ row.device }}</button><span>{{ head }}</span>
    </header>
    <div v-for="g in groups" :key="g.side">
      <p v-if="groups.length > 1" class="side">{{ sides[g.side] }}</p>
      <ol :style="{ '--wide': wide }" :class="{ small: row.bays.length > 16 }">
        <li v-for="(b, i) in g.bays" :key="b.n ?? `x${i}`">
          <button
            :class="{
              free: !b.part_id,
              off: b.part_id && !b.pool_id,
              bad: b.state === 'faulty' || (b.pool_id && !b.part_id),
              here: b.pool_id && b.pool_id === pool,
              picked: b.n && picked.has(b.n),
            }"
            :style="{ '--hue': hueOf(b.pool_id) }"
            :aria-label="says(b)"
            :aria-pressed="b.n && free(b.n) ? picked.has(b.n) : undefined"
            :title="says(b)"
            @pointerdown="press(b, $event)"
            @pointerenter="over(b)"
            @keydown.space.prevent="b.pool_id ? click(b) : toggle(b)"
            @click="click(b)">
            <span class="n figure">{{ b.n ?? '–' }}</span>
            <b>{{ words(b) }}</b>
            <span v-if="b.part_id" class="size figure">{{ sizeWords(b.size_bytes) }}{{ role(b) }}</span>
          </button>
        </li>
      </ol>
    </div>
  </section>
</template>

<style scoped>
.face {
  flex: none;
  padding: 6px 8px 8px;
  color: var(--boxink);
  background: var(--boxdark);
  border: 1px solid var(--boxedge);
  border-radius: 2px;
  user-select: none;
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: center;
  justify-content: space-between;
  margin-bottom: 4px;
  font-size: 13px;
}
.name {
  font: 600 15px var(--names);
}
.side {
  margin: 2px 0;
  font-size: 12px;
}
ol {
  display: grid;
  grid-template-columns: repeat(var(--wide), minmax(0, 1fr));
  gap: 5px;
  list-style: none;
}
li button {
  display: flex;
  gap: 8px;
  align-items: center;
  width: 100%;
  min-height: 26px;
  padding: 2px 8px 2px 9px;
  text-align: left;
  white-space: nowrap;
  border: 1px solid var(--hue);
  border-left-width: 6px;
  border-radius: 2px;
  touch-action: none;
}
li b {
  flex: 1;
  overflow: hidden;
  font: 500 14px var(--names);
  text-overflow: ellipsis;
}
.n,
.size {
  flex: none;
  font-size: 12px;
}
.small .n,
.small .size {
  font-size: 12px;
}
.small li button {
  gap: 4px;
  padding: 2px 5px;
}
.off {
  border-style: dashed;
  border-color: var(--boxline);
  border-left-style: solid;
}
.free {
  border-style: dashed;
  border-width: 1px;
  border-color: var(--boxline);
}
.free b {
  font-weight: 400;
}
li .bad {
  color: var(--boxink);
  border-color: var(--red);
  border-left-color: var(--red);
  background: repeating-linear-gradient(45deg, color-mix(in srgb, var(--red) 34%, transparent) 0 4px, transparent 4px 10px);
}
.here,
.picked {
  outline: 2px solid var(--boxink);
  outline-offset: 0;
}
.picked {
  background: color-mix(in srgb, var(--boxink) 24%, transparent);
}
@media (max-width: 700px) {
  ol {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
  li button,
  .name {
    min-height: 44px;
  }
}
</style>
