<script setup lang="ts">
// What needs what, drawn: services at the left of what they run in, that of its host and
// pools; what matters most on top. What is picked lights all that it needs and all that
// needs it. Stacks are folded until they are opened. A phone lists what is drawn elsewhere.
import { computed, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '../../api/address'
import type { Schemas } from '../../api/client'
import { high, joined, layOut, sentence, type Line, type Picture } from '../../draw/needs/layout'
import { useReport } from '../../lab/useReport'
import { usePhone } from '../../work/usePhone'
import { useWork } from '../../work/work'
import NeedsList from './NeedsList.vue'
import '../../frame/views.css'

const emit = defineEmits<{ says: [text: string] }>()
const router = useRouter()
const work = useWork()
const open = ref<string[]>([])
const { data } = useReport(() => api('/api/v1/reports/needs', { open: open.value.join(',') }))
const nodes = computed(() => data.value?.nodes ?? [])
const lines = computed(() => joined(data.value?.links ?? []))
const phone = usePhone()
const picture = shallowRef<Picture>()
watch([data, phone], async ([now]) => {
  if (!now || phone.value) return
  const done = await layOut(now.nodes, lines.value)
  if (data.value === now) picture.value = done
})
const looked = ref('')
const chosen = computed(() => (nodes.value.some((n) => n.id === looked.value) ? looked.value : (work.deviceId ?? '')))

/** What is reached from one by its lines, downwards or upwards. */
function reached(from: string, to: (l: Schemas['NeedLink']) => [string, string]): Set<string> {
  const seen = new Set([from])
  for (const at of seen)
    for (const l of lines.value) {
      const [a, b] = to(l)
      if (a === at) seen.add(b)
    }
  return seen
}
const needs = computed(() => (chosen.value ? reached(chosen.value, (l) => [l.of, l.to]) : new Set<string>()))
const needing = computed(() => (chosen.value ? reached(chosen.value, (l) => [l.to, l.of]) : new Set<string>()))
const lights = computed(() => nodes.value.some((n) => n.id === chosen.value))
const lit = (id: string) => !lights.value || needs.value.has(id) || needing.value.has(id)
const litLine = (l: Line) =>
  !lights.value || (needs.value.has(l.of) && needs.value.has(l.to)) || (needing.value.has(l.of) && needing.value.has(l.to))
const title = (id: string) => nodes.value.find((n) => n.id === id)?.title ?? ''
/** The lines at what is looked at, in words. */
const said = computed(() =>
  lines.value.filter((l) => lights.value && (l.of === chosen.value || l.to === chosen.value)).map((l) => sentence(l, title)),
)
watch(data, (now) => emit('says', now?.nodes.length ? `${now.nodes.length} things, ${now.links.length} needs` : ''), { immediate: true })
const path = (l: Line) => `M${l.points.map((p) => `${p.x} ${p.y}`).join('L')}`
function pick(n: { id: string; to: string; holds?: number }) {
  if (n.holds) return toggle(n.id)
  looked.value = n.id
  const at = new URL(n.to, location.origin)
  const device = at.searchParams.get('device')
  if (device) work.pick(device)
}
const toggle = (id: string) => {
  open.value = open.value.includes(id) ? open.value.filter((o) => o !== id) : [...open.value, id]
}
</script>

<template>
  <div class="paper-view" data-scroll>
    <section class="leaf whole">
      <div class="what">
        <label v-for="s in data?.stacks ?? []" :key="s.id">
          <input type="checkbox" :checked="!s.open" @change="toggle(s.id)" /> {{ s.name }} as one
        </label>
        <span class="soft">Without feeds, gateways and name servers, which nearly everything needs.</span>
      </div>
      <NeedsList v-if="phone" :nodes="nodes" :chosen="chosen" :said="said" @pick="pick" />
      <ul v-else-if="said.length" class="said" aria-live="polite" aria-label="In words">
        <li v-for="s in said" :key="s">{{ s }}</li>
      </ul>
      <p v-else-if="nodes.length" class="soft">
        Round ends are services, square ones guests and hosts; a thick edge is the household's. A dashed line is wanted only, a dotted one
        has another way. Pick a thing to see all that it needs and all that needs it.
      </p>
      <p v-if="data && !data.nodes.length" class="soft">
        Nothing needs anything yet. Write what runs where, and what needs what:
        <code class="figure">"choir library" needs "data base"</code>.
      </p>
      <div v-else-if="picture && !phone" class="scroll" tabindex="0" role="region" aria-label="What needs what">
        <svg :width="picture.width" :height="picture.height" :viewBox="`0 0 ${picture.width} ${picture.height}`">
          <defs>
            <marker id="needs-tip" markerWidth="7" markerHeight="7" refX="6" refY="3" orient="auto">
              <path d="M0 0L6 3L0 6" class="tip" />
            </marker>
          </defs>
          <path
            v-for="(l, i) in picture.lines"
            :key="i"
            :d="path(l)"
            class="line"
            :class="{ soft: l.soft, or: l.or, dim: !litLine(l) }"
            marker-end="url(#needs-tip)" />
          <g
            v-for="n in picture.nodes"
            :key="n.id"
            class="node"
            :class="[n.kind, n.worth, { dim: !lit(n.id), here: n.id === chosen }]"
            :transform="`translate(${n.x} ${n.y})`"
            role="button"
            tabindex="0"
            :aria-pressed="n.id === chosen"
            :aria-label="`${n.title}, ${n.kind}${n.holds ? ` of ${n.holds}, open it` : ''}${n.worth ? `, ${n.worth}` : ''}`"
            @click="pick(n)"
            @dblclick="router.push(n.to)"
            @keydown.enter="pick(n)"
            @keydown.space.prevent="pick(n)">
            <rect :width="n.w" :height="high" :rx="n.kind === 'service' ? 13 : 2" />
            <rect v-if="n.holds" x="3" y="3" :width="n.w - 6" :height="high - 6" rx="1" class="inner" />
            <text :x="n.w / 2" y="18" text-anchor="middle">{{ n.title }}{{ n.holds ? ` (${n.holds})` : '' }}</text>
          </g>
        </svg>
      </div>
    </section>
  </div>
</template>

<style scoped>
.scroll {
  margin: 6px 0;
  overflow: auto;
}
.line {
  fill: none;
  stroke: var(--water);
  stroke-width: 1.3;
}
.line.soft {
  stroke-dasharray: 7 4;
}
.line.or {
  stroke-dasharray: 2 3;
}
.tip {
  fill: none;
  stroke: var(--water);
}
.node {
  cursor: pointer;
}
.node rect {
  fill: var(--sheet);
  stroke: var(--ink);
}
.node.household rect {
  stroke-width: 2.2;
}
.node.toy rect {
  stroke-dasharray: 3 3;
}
.node.device rect {
  fill: var(--ink);
}
.node.device text {
  fill: var(--paper);
}
.node.pool rect {
  fill: var(--strip);
}
.node .inner {
  stroke-width: 1;
  fill: none;
}
.node.here rect {
  stroke: var(--red);
  stroke-width: 2.4;
}
.node:focus-visible {
  outline: none;
}
.node:focus-visible rect {
  stroke: var(--red);
}
text {
  font: 600 13px var(--names);
  fill: var(--ink);
}
.dim {
  opacity: 0.22;
}
.said {
  columns: 2 260px;
  padding: 0;
  margin: 6px 0 0;
  list-style: none;
}
.said li {
  padding: 2px 0;
  break-inside: avoid;
}
</style>
