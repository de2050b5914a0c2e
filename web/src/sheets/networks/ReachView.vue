<script setup lang="ts">
// Who reaches whom, as it is written down, and where wiring, legs or another way make
// that untrue. A cell that is picked is said anew below.
import { computed, nextTick, ref, watch } from 'vue'
import { api } from '../../api/address'
import type { Schemas } from '../../api/client'
import { useReport } from '../../lab/useReport'
import ReachMark from './ReachMark.vue'
import ReachPanel from './ReachPanel.vue'

type Cell = Schemas['ReachCell']
const emit = defineEmits<{ says: [text: string] }>()
const { data } = useReport(() => api('/api/v1/reports/reach'))
const keyOf = (e: Schemas['Endpoint']) => `${e.kind} ${e.id ?? ''}`

type Side = { key: string; title: string }
/** The sides that cells come from, or lead to; what is outside is last. */
function sidesOf(side: (c: Cell) => [Schemas['Endpoint'], string]): Side[] {
  const list = new Map((data.value?.cells ?? []).map((c) => side(c)).map(([is, title]) => [keyOf(is), title]))
  const outside = (e: Side) => Number(e.key.startsWith('internet'))
  return [...list].map(([key, title]) => ({ key, title })).sort((a, b) => outside(a) - outside(b))
}
const sides = computed(() => sidesOf((c) => [c.from_is, c.from]))
/** A column is where a row has the same side. */
const reached = computed(() => {
  const order = new Map(sides.value.map((s, i) => [s.key, i]))
  return sidesOf((c) => [c.to_is, c.to]).sort((a, b) => (order.get(a.key) ?? 0) - (order.get(b.key) ?? 0))
})
const cells = computed(() => new Map((data.value?.cells ?? []).map((c) => [`${keyOf(c.from_is)} > ${keyOf(c.to_is)}`, c])))
const cell = (from: string, to: string) => cells.value.get(`${from} > ${to}`)

/** Many are looked for by name. */
const filter = ref('')
const many = computed(() => sides.value.length > 14)
const some = computed(() => {
  const words = filter.value.trim().toLowerCase()
  const found = words ? sides.value.filter((s) => s.title.toLowerCase().includes(words)) : sides.value
  return found.slice(0, 40)
})
const columns = computed(() => reached.value.slice(0, 40))

const at = ref({ row: 0, col: 1 })
const picked = ref('')
const chosen = computed(() => cells.value.get(picked.value))
const broken = computed(() => (data.value?.cells ?? []).filter((c) => !c.can && c.said !== 'not_said'))
watch(broken, (list) => emit('says', list.length ? `${list.length} ${list.length === 1 ? 'rule' : 'rules'} cannot hold` : ''), {
  immediate: true,
})

const wordOf: Record<string, string> = { all: 'all', some: 'some', none: 'none', not_said: 'not said' }
const says = (c: Cell) => `${c.from} to ${c.to}: ${wordOf[c.said]}${c.can ? '' : c.said === 'not_said' ? '' : ', and cannot be'}. ${c.why}`
const cap = (c: Cell) => (c.down_mb ? `${c.down_mb}↓` : '')
const pick = (c: Cell) => (picked.value = `${keyOf(c.from_is)} > ${keyOf(c.to_is)}`)

const table = ref<HTMLElement>()
async function key(event: KeyboardEvent) {
  const by: Record<string, [number, number]> = { ArrowLeft: [0, -1], ArrowRight: [0, 1], ArrowUp: [-1, 0], ArrowDown: [1, 0] }
  const way = by[event.key]
  if (!way || event.ctrlKey || event.altKey || event.metaKey) return
  event.preventDefault()
  let { row, col } = at.value
  const within = (v: number, n: number) => Math.max(0, Math.min(n - 1, v))
  do {
    const next = { row: within(row + way[0], some.value.length), col: within(col + way[1], columns.value.length) }
    if (next.row === row && next.col === col) return
    ;({ row, col } = next)
  } while (some.value[row]?.key === columns.value[col]?.key && row + col > 0 && row + col < some.value.length + columns.value.length - 2)
  if (some.value[row]?.key === columns.value[col]?.key) return
  at.value = { row, col }
  await nextTick()
  table.value?.querySelector<HTMLElement>('[tabindex="0"]')?.focus()
}
</script>

<template>
  <p v-if="data && !data.cells.length" class="none">
    Nothing to reach yet. VLANs and subnets appear here; a line such as
    <code class="figure">from guests to internet: some, down 30M</code> says who may reach whom.
  </p>
  <div v-else-if="data" class="reach-room" data-scroll>
    <p v-if="many" class="find">
      <input v-model="filter" class="field" type="search" placeholder="From whom" aria-label="From whom" />
      <span v-if="sides.length > some.length" class="soft">{{ some.length }} of {{ sides.length }}</span>
    </p>
    <div class="both">
      <div class="scroll">
        <table ref="table" role="grid" aria-label="Who reaches whom" @keydown="key">
          <thead>
            <tr>
              <th class="corner" scope="col"><span>from</span><span>to</span></th>
              <th v-for="c in columns" :key="c.key" scope="col" class="to">
                <span>{{ c.title }}</span>
              </th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(r, row) in some" :key="r.key">
              <th scope="row">{{ r.title }}</th>
              <template v-for="(c, col) in columns" :key="c.key">
                <td v-if="cell(r.key, c.key)" :class="{ bad: !cell(r.key, c.key)?.can && cell(r.key, c.key)?.said !== 'not_said' }">
                  <button
                    :tabindex="at.row === row && at.col === col ? 0 : -1"
                    :aria-label="says(cell(r.key, c.key)!)"
                    :aria-pressed="picked === `${r.key} > ${c.key}`"
                    :title="says(cell(r.key, c.key)!)"
                    @focus="at = { row, col }"
                    @click="pick(cell(r.key, c.key)!)">
                    <ReachMark :said="cell(r.key, c.key)!.said" :can="cell(r.key, c.key)!.can" />
                    <small v-if="cap(cell(r.key, c.key)!)" class="figure">{{ cap(cell(r.key, c.key)!) }}</small>
                  </button>
                </td>
                <td v-else class="same" />
              </template>
            </tr>
          </tbody>
        </table>
      </div>
      <aside v-if="chosen || broken.length">
        <ul v-if="broken.length" class="broken" aria-label="Rules that cannot hold">
          <li v-for="c in broken" :key="c.rule_id ?? ''">
            <button @click="pick(c)">
              <b>{{ c.from }} → {{ c.to }} cannot be</b> <span class="soft">{{ c.why }}</span>
            </button>
          </li>
        </ul>
        <ReachPanel v-if="chosen" :key="picked" :cell="chosen" @close="picked = ''" />
      </aside>
    </div>
    <p class="legend" aria-hidden="true">
      <span><ReachMark said="all" can />all</span><span><ReachMark said="some" can />some</span
      ><span><ReachMark said="none" can />none</span><span><ReachMark said="not_said" can />not said</span
      ><span><ReachMark said="all" :can="false" />cannot be</span>
    </p>
  </div>
</template>

<style scoped>
.none {
  padding: 20px;
}
.reach-room {
  flex: 1;
  min-height: 0;
  margin: 0 18px 10px;
  padding: 10px 14px 14px;
  overflow: auto;
  background: var(--sheet);
  border: 1px solid var(--ink);
}
.find {
  margin-bottom: 6px;
}
.both {
  display: flex;
  flex-wrap: wrap;
  gap: 0 18px;
  align-items: flex-start;
}
.scroll {
  max-width: 100%;
  overflow-x: auto;
}
aside {
  flex: 1 1 150px;
  padding-top: 84px;
}
table {
  border-spacing: 3px;
}
th {
  font: 600 13px var(--names);
  text-align: right;
  white-space: nowrap;
}
tbody th {
  position: sticky;
  left: 0;
  z-index: 1;
  padding-right: 8px;
  background: var(--sheet);
}
.to {
  height: 84px;
  vertical-align: bottom;
}
.to span {
  display: block;
  width: 34px;
  transform: translate(12px, -6px) rotate(-52deg);
  transform-origin: 0 100%;
  text-align: left;
}
.corner {
  position: relative;
  font: 400 12px var(--sentences);
  color: var(--soft);
}
.corner span {
  position: absolute;
  right: 8px;
  bottom: 4px;
}
.corner span + span {
  right: -6px;
  bottom: 26px;
}
td {
  width: 34px;
  height: 34px;
  padding: 0;
  border: 1px solid var(--rule);
}
td.same {
  background: var(--strip);
}
td.bad {
  border: 2px solid var(--red);
}
td button {
  position: relative;
  display: grid;
  place-items: center;
  width: 100%;
  height: 100%;
}
td button:hover {
  background: var(--hair);
}
td button[aria-pressed='true'] {
  background: var(--strip);
  outline: 2px solid var(--ink);
}
small {
  position: absolute;
  bottom: 1px;
  font-size: 12px;
  line-height: 1;
}
/* The mark makes room for what is written under it. */
td button:has(small) svg {
  transform: translateY(-6px) scale(0.75);
}
.legend {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  margin-top: 10px;
  font: 500 13px var(--names);
  color: var(--soft);
}
.legend span {
  display: inline-flex;
  align-items: center;
}
.broken {
  margin-bottom: 10px;
  list-style: none;
}
.broken li {
  padding: 4px 10px;
  border-left: 3px solid var(--red);
}
.broken li + li {
  margin-top: 6px;
}
.broken button {
  text-align: left;
}
@media (max-width: 700px) {
  aside {
    padding-top: 8px;
  }
  .reach-room {
    margin: 0 10px 6px;
    padding: 8px;
  }
  td,
  .to span {
    width: 44px;
  }
  td {
    height: 44px;
  }
  main.sheet td > button {
    display: grid;
  }
  .broken button {
    min-height: 44px;
  }
}
</style>
