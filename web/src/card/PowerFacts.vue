<script setup lang="ts">
// What a thing draws or gives, on what that rests, what feeds it and what hangs on its
// outlets.
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { minutesWords, restsWords, useBattery } from '../work/useBattery'
import { usePower, wattsOf, wattsWords, type PowerNode } from '../work/usePower'
import { useWork } from '../work/work'

const props = defineProps<{ node: PowerNode }>()
const work = useWork()
const router = useRouter()
const { power, byId } = usePower()
const { byUPS } = useBattery(() => props.node.kind === 'ups')
const holds = computed(() => byUPS.value.get(props.node.id))
const feeder = computed(() => props.node.kind !== 'device')
const load = computed(() => {
  const { node } = props
  const limit = [
    node.limit_w && `${wattsWords(node.limit_w)} W`,
    node.limit_va && node.limit_va !== node.limit_w && `${wattsWords(node.limit_va)} VA`,
  ]
  const va = node.va === undefined ? '' : `, ${wattsWords(node.va)} VA`
  const of = limit.filter(Boolean).join(', ')
  return `${wattsOf(node, 'typical')} W${va}${of ? ` of ${of}` : ''}`
})
const levels = computed(() =>
  (['idle', 'most', 'boot'] as const)
    .filter((l) => props.node.watts[l] !== undefined)
    .map((l) => `${l === 'boot' ? 'while starting' : l === 'most' ? 'at most' : l} ${wattsOf(props.node, l)} W`)
    .join(', '),
)
const rests = computed(() => {
  const r = props.node.rests_on
  const all = [
    r.measured && `${r.measured} measured`,
    r.by_sheet && `${r.by_sheet} by ${r.by_sheet === 1 ? 'its sheet' : 'their sheets'}`,
    r.worked_out && `${r.worked_out} worked out, at least`,
    r.unknown ? `${r.unknown} unknown` : feeder.value && 'none unknown',
  ].filter(Boolean)
  if (!feeder.value && all.length === 1 && r.measured + r.by_sheet === 1) return r.measured ? 'measured' : 'by its sheet'
  return all.join(', ')
})
/** Outlets in order, those that are free next to each other as one row. */
const outlets = computed(() => {
  const rows: { ports: string; to: string; id?: string; what: string }[] = []
  let free: string[] = []
  let what = ''
  const put = () => {
    const [first, last] = [free[0], free.at(-1)]
    if (first) rows.push({ ports: free.length > 1 ? `${first}–${(last ?? '').replace(/^\D+/, '')}` : first, to: 'free', what })
    free = []
  }
  for (const o of props.node.outlets) {
    const is = o.held ? 'holds' : o.filtered ? 'only filters' : ''
    if (free.length && (o.to || is !== what)) put()
    what = is
    if (o.to) rows.push({ ports: o.port, to: `${o.to} ${o.in ?? ''}`, id: o.to_id, what: is })
    else free.push(o.port)
  }
  put()
  return rows
})
/** What a circuit feeds has no outlets of its own. */
const ends = computed(() =>
  props.node.kind === 'circuit'
    ? (power.value?.feeds ?? []).filter((f) => f.from_id === props.node.id).flatMap((f) => byId.value.get(f.to_id) ?? [])
    : [],
)
const loose = computed(() => props.node.supplies.filter((s) => !s.fed).map((s) => s.port))
function show(id?: string) {
  if (id) work.pick(id)
}
</script>

<template>
  <h2>Power <button class="to" @click="router.push('/power')">feeds ›</button></h2>
  <dl class="sums">
    <dt>{{ feeder ? 'Gives' : 'Draws' }}</dt>
    <dd>
      <span class="figure" :class="{ bad: node.standing === 'past' }">{{ load }}</span>
      <small v-if="levels">{{ levels }}</small>
      <small v-if="rests">{{ rests }}</small>
      <small v-if="node.losses_unknown">what it loses itself is not known, and not counted</small>
      <small v-if="node.not_explained_w !== undefined" class="bad"
        >{{ wattsWords(Math.abs(node.not_explained_w)) }} W {{ node.not_explained_w > 0 ? 'more' : 'less' }} was measured than is
        explained</small
      >
      <small v-if="node.average_w !== undefined"
        >{{ node.average_at_least ? 'at least ' : '' }}{{ wattsWords(node.average_w) }} W on average, by the hours it runs</small
      >
      <small v-if="node.all_on_w !== undefined">{{ wattsWords(node.all_on_w) }} W with everything on that rests</small>
    </dd>
    <template v-if="holds">
      <dt>Holds</dt>
      <dd>
        <b v-if="holds.minutes !== undefined" class="figure">{{ holds.load_at_least ? '≤ ' : '' }}{{ minutesWords(holds.minutes) }}</b>
        <i v-else class="unknown">?</i>
        <button class="to" @click="router.push('/power/battery')">on battery ›</button>
        <small>{{ restsWords(holds) }}</small>
      </dd>
    </template>
    <template v-if="node.kind !== 'circuit'">
      <dt>Fed by</dt>
      <dd>
        {{ node.fed_by.join(', ') || 'nothing that is known' }}
        <small v-if="loose.length && node.fed_by.length" class="bad">{{ loose.join(', ') }} plugged in nowhere</small>
        <small v-if="node.supplies.length > 1">{{ node.supplies_needed }} of {{ node.supplies.length }} supplies needed</small>
      </dd>
    </template>
  </dl>
  <template v-if="outlets.length || ends.length">
    <h3>{{ ends.length ? 'Ends' : 'Outlets' }}</h3>
    <ul>
      <li v-for="o in outlets" :key="o.ports">
        <span class="figure">{{ o.ports }}</span>
        <button v-if="o.id" @click="show(o.id)">{{ o.to }}</button>
        <span v-else class="soft">{{ o.to }}</span>
        <span class="soft">{{ o.what }}</span>
      </li>
      <li v-for="e in ends" :key="e.id">
        <span />
        <button @click="show(e.id)">{{ e.name }}</button>
        <span class="soft">{{ wattsOf(e, 'typical') }} W</span>
      </li>
    </ul>
  </template>
</template>

<style scoped>
h3 {
  margin: 8px 0 2px;
  font: 600 14px var(--names);
}
ul {
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 74px 1fr auto;
  gap: 8px;
  padding: 3px 0;
  border-bottom: 1px solid var(--rule);
}
li button {
  text-align: left;
}
li button:hover {
  color: var(--red);
}
</style>
