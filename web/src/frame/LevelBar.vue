<script setup lang="ts">
// How full the capacities are that the sheet is about, the picked rack's space
// first.
import { computed } from 'vue'
import { api } from '../api/address'
import type { Schemas, Space } from '../api/client'
import { useLab } from '../lab/useLab'
import { useReport } from '../lab/useReport'
import { count } from '../lab/words'
import { useAddresses } from '../work/useAddresses'
import { useNetwork } from '../work/useNetwork'
import { useBattery, type UPSHold } from '../work/useBattery'
import { usePower } from '../work/usePower'
import { inGB, memoryWords, useServices, type HostRow } from '../work/useServices'
import { useStorage, type PoolRow } from '../work/useStorage'
import { useWork } from '../work/work'
import LevelVial from './LevelVial.vue'
import { useSheet, type Level } from './sheets'

const { sheet, tab } = useSheet()
/** On what is no sheet, such as the walk, those of the rack. */
const levels = computed<Level[]>(() => sheet.value?.levels ?? ['space', 'weight', 'ports', 'racks'])
const shows = (level: Level) => levels.value.includes(level)
const work = useWork()
const { lab, spaces, compared } = useLab()
/** How it is as built, while a draft is looked at. */
const before = computed(() => compared.value?.from.spaces.find((s) => s.rack_id === work.rack?.id))
const beforeOf = (id: string) => compared.value?.from.spaces.find((s) => s.rack_id === id)?.taken_u
const here = computed(() => spaces.value.get(work.rack?.id ?? ''))
const others = computed(() =>
  !shows('racks')
    ? []
    : [...(lab.value?.racks.values() ?? [])]
        .filter((r) => r.id !== work.rack?.id)
        .flatMap((r) => spaces.value.get(r.id) ?? [])
        .slice(0, 3),
)
const weightNote = computed(() => {
  const w = here.value?.weight
  if (!w) return ''
  return w.unweighed.length
    ? `${w.unweighed.length} of ${w.things} not weighed`
    : w.things
      ? `${count(w.things)}, all weighed`
      : 'nothing in it'
})
const { data: ports } = useReport(() => (work.rack && shows('ports') ? api('/api/v1/racks/{id}/ports', { id: work.rack.id }) : ''))
const links = computed(() => ports.value?.links)
const portsNote = computed(() => {
  const { used = 0, of = 0, kept = 0, unlisted = 0 } = links.value ?? {}
  return [
    'network ports of switches and routers',
    `${of - used - kept} free`,
    kept && `${kept} reserved or broken`,
    unlisted && `ports of ${unlisted} devices not documented`,
  ]
    .filter(Boolean)
    .join(', ')
})
/** The whole network: its ports, its VLANs in one piece, its links that rest. */
const { map } = useNetwork(() => shows('network'))
const network = computed(() => (shows('network') ? map.value : undefined))
/** Where addresses and lines are looked at, how full the subnets are: the picked one, then the fullest. */
const addressed = computed(() => shows('network') && ['addresses', 'reach', 'outside', 'names'].includes(tab.value?.path ?? ''))
const { data: tree } = useReport(() => (addressed.value ? api('/api/v1/network/subnets') : ''))
const { data: lines } = useReport(() => (addressed.value ? api('/api/v1/reports/lines') : ''))
const { subnet } = useAddresses()
/** What is neither free nor left out: had, or handed out. */
const taken = (s: Schemas['SubnetUse']) => (s.size ?? 0) - (s.free ?? 0)
const fullness = (s: Schemas['SubnetUse']) => (s.size ? taken(s) / s.size : 0)
const subnets = computed(() => {
  const all = (tree.value?.branches ?? []).flatMap((b) => (b.subnet?.size ? [b.subnet] : []))
  const first = all.find((s) => s.id === subnet.value)
  return [...(first ? [first] : []), ...all.filter((s) => s !== first).sort((a, b) => fullness(b) - fullness(a))].slice(0, 3)
})
const builtOf = (id: string) => tree.value?.built?.find((s) => s.id === id)
const ofRange = computed(() => subnets.value.find((s) => s.id === subnet.value && s.handed_out))
const speed = (mb: number | null) => (mb === null ? '?' : `${mb}`)
const restsNote = (n: number) => `${n} ${n === 1 ? 'link rests' : 'links rest'}`
/** What all draws against what the breakers may give, and what goes over the network. */
const { power } = usePower(() => shows('power'))
const { data: poe } = useReport(() => (shows('power') ? api('/api/v1/reports/poe') : ''))
/** What holds shortest by battery, and what a month costs. */
const { batteries } = useBattery(() => shows('power'))
const { data: costs } = useReport(() => (shows('power') ? api('/api/v1/reports/cost') : ''))
/** The UPS that is fullest, by both of its limits. */
const ofUPS = computed(() => {
  const share = (u: UPSHold) => Math.max((u.load_w ?? 0) / (u.of_w ?? Infinity), (u.va ?? 0) / (u.of_va ?? Infinity))
  const [u] = (batteries.value?.ups ?? []).filter((u) => share(u) > 0).sort((a, b) => share(b) - share(a))
  return [
    { unit: 'W', used: u?.load_w, of: u?.of_w },
    { unit: 'VA', used: u?.va, of: u?.of_va },
  ].flatMap(({ unit, used, of }) => {
    if (!u || used === undefined || !of) return []
    return [{ unit, used: Math.round(used), of: Math.round(of), name: u.name, atLeast: !!u.load_at_least }]
  })
})
const held = computed(
  () =>
    (batteries.value?.ups ?? [])
      .filter((u) => u.minutes !== undefined && u.holds.length)
      .sort((a, b) => (a.minutes ?? 0) - (b.minutes ?? 0))[0],
)
const wasHeld = computed(() => builtFigures.value?.holds_min)
const wasCost = computed(() => builtFigures.value?.cost_month)
const fell = (before: number | undefined, now: number | undefined, digits: number) =>
  before !== undefined && now !== undefined && before.toFixed(digits) !== now.toFixed(digits) ? `${before.toFixed(digits)} → ` : ''
const draws = computed(() => (shows('power') ? power.value?.lab : undefined))
/** The fullest pools with their line at 80 %, and the bays. */
const { stored } = useStorage(() => shows('storage'))
const roomIn = (p: PoolRow) => (p.usable_bytes ?? 0) - p.kept_back_bytes
const fullest = computed(() =>
  (stored.value?.pools ?? [])
    .filter((p) => p.used_bytes !== undefined && roomIn(p) > 0)
    .sort((a, b) => (b.used_bytes ?? 0) / roomIn(b) - (a.used_bytes ?? 0) / roomIn(a))
    .slice(0, 3),
)
const poolNote = (p: PoolRow) =>
  `${p.name} on ${p.device}, its line at 80 %; ${p.used_on ? `used as of ${p.used_on}` : 'used by what its datasets and copies come to'}`
/** The fullest hosts by memory and the fullest by cores, and what becomes of the guests of the largest. */
const { running } = useServices(() => shows('service'))
const { data: lost } = useReport(() => (shows('service') ? api('/api/v1/reports/worst') : ''))
const { data: dark } = useReport(() => (shows('service') ? api('/api/v1/reports/circles') : ''))
const takes = (h: HostRow) => h.taken_bytes ?? 0
const ofMemory = computed(() =>
  (running.value?.hosts ?? [])
    .filter((h) => h.fitted_bytes && h.guests)
    .sort((a, b) => takes(b) / (b.fitted_bytes ?? 1) - takes(a) / (a.fitted_bytes ?? 1))
    .slice(0, 2),
)
const lanes = (h: HostRow) => h.threads ?? h.cores ?? 0
const ofCores = computed(
  () =>
    [...(running.value?.hosts ?? [])]
      .filter((h) => lanes(h) && h.vcpus)
      .sort((a, b) => (b.vcpus ?? 0) / lanes(b) - (a.vcpus ?? 0) / lanes(a))[0],
)
const hostNote = (h: HostRow) =>
  `given and kept, of what is fitted in ${h.name}; ${h.used_bytes === undefined ? 'use not said' : `${memoryWords(h.used_bytes)} used`}`
const inTB = (bytes: number) => Number((bytes / 1e12).toPrecision(3))
/** As built, while a draft is looked at. */
const builtFigures = computed(() => compared.value?.from.figures)
const whole = (w?: number) => (w === undefined ? undefined : Math.round(w))
const budgets = computed(() => (poe.value?.switches ?? []).filter((s) => s.ports.length && s.budget_w !== undefined).slice(0, 2))
const { data: gear } = useReport(() => (shows('bays') ? api('/api/v1/reports/gear') : ''))
const round = (v: number) => Math.round(v * 10) / 10

function spaceWords(s: Space): string {
  const blanked = s.blanked_u ? `${s.blanked_u}U behind blanking panels` : ''
  return [`${s.free_u}U free`, `largest piece ${s.largest_u}U`, blanked].filter(Boolean).join(', ')
}
</script>

<template>
  <section class="levels" aria-label="Levels">
    <p v-if="!here && !others.length && !network && !draws && !stored && !running" class="note">
      Space and weight appear here once there is a rack.
    </p>
    <template v-if="addressed">
      <LevelVial
        v-for="s in subnets"
        :key="s.id"
        :name="s.cidr"
        :before="builtOf(s.id) && taken(builtOf(s.id)!)"
        :used="taken(s)"
        :of="s.size ?? undefined"
        unit=""
        :note="`${s.name ?? 'addresses'}: ${s.used} had, ${s.handed_out ?? 0} handed out, ${s.free} left`" />
      <LevelVial
        v-if="ofRange"
        :key="`range ${ofRange.id}`"
        name="Its range"
        :used="ofRange.had_in_range ?? 0"
        :of="ofRange.handed_out ?? undefined"
        unit=""
        at-least
        :note="`known to be had of what ${ofRange.cidr} hands out`" />
      <p v-if="lines?.lines.length" class="note">
        <span v-for="w in lines.lines.filter((x) => !x.site)" :key="w.id"
          >{{ w.name }} {{ speed(w.down_mb) }} / {{ speed(w.up_mb) }} Mb/s</span
        >
      </p>
    </template>
    <template v-else-if="network">
      <LevelVial
        name="Ports"
        :before="network.built?.ports.used"
        :used="network.ports.used"
        :of="network.ports.unlisted ? undefined : network.ports.of"
        unit=""
        :unknown="network.ports.unlisted"
        :at-least="!!network.ports.unlisted"
        note="network ports of all switches and routers" />
      <LevelVial
        v-if="network.carried"
        name="VLANs in one piece"
        :before="network.built?.whole"
        :used="network.whole"
        :of="network.carried"
        unit=""
        :note="`of the ${network.carried} that a cable carries, ${network.declared} declared`" />
      <p class="note">
        <span
          ><template v-if="network.built && network.built.rests !== network.rests">{{ network.built.rests }} → </template
          >{{ restsNote(network.rests) }}</span
        >
        <span v-if="network.worst"
          ><template v-if="network.built && network.built.threads !== network.threads">{{ network.built.threads }} → </template
          >{{ network.threads }} {{ network.threads === 1 ? 'thread' : 'threads' }}; {{ network.worst }} cuts off {{ network.cuts }}</span
        >
        <span v-if="network.declared > network.carried">{{ network.declared - network.carried }} declared, carried nowhere</span>
      </p>
    </template>
    <template v-if="draws">
      <LevelVial
        name="Now"
        :before="whole(builtFigures?.typical_w)"
        :used="whole(draws.typical) ?? 0"
        :of="whole(draws.of_w)"
        unit="W"
        :unknown="draws.unknown"
        :at-least="draws.unknown > 0"
        limit
        :note="`typical, of what all breakers may give for hours; ${draws.unknown} unknown`" />
      <LevelVial
        name="Most"
        :before="whole(builtFigures?.most_w)"
        :used="whole(draws.most) ?? 0"
        :of="whole(draws.of_w)"
        unit="W"
        :unknown="draws.unknown_at_most"
        :at-least="draws.unknown_at_most > 0"
        limit
        :note="`with all at its most; ${draws.unknown_at_most} unknown`" />
      <LevelVial
        v-for="s in budgets"
        :key="s.id"
        :name="`PoE, ${s.name}`"
        :used="Math.round(s.given_w)"
        :of="whole(s.budget_w)"
        unit="W"
        :unknown="s.unknown"
        :at-least="s.unknown > 0"
        limit
        :note="`by class; ${s.unknown} of no known class`" />
      <LevelVial
        v-for="v in ofUPS"
        :key="v.unit"
        :name="`${v.name}, ${v.unit}`"
        :used="v.used"
        :of="v.of"
        :unit="v.unit"
        :at-least="v.atLeast"
        limit
        :note="`what ${v.name} gives of what it is made for`" />
      <p class="note">
        <span v-if="draws.all_on_w > (draws.typical ?? 0) + 0.5">{{ whole(draws.all_on_w) }} W with everything on that rests</span>
        <span v-if="held?.minutes !== undefined"
          >{{ held.name }} holds
          <b class="figure"
            >{{ fell(wasHeld, held.minutes, 0) }}{{ held.load_at_least ? '≤ ' : '' }}{{ Math.floor(held.minutes) }} min</b
          ></span
        >
        <span v-if="costs?.cost_month !== undefined"
          ><b class="figure"
            >{{ fell(wasCost, costs.cost_month, 2) }}{{ costs.at_least ? '≥ ' : '' }}{{ costs.cost_month.toFixed(2) }}
            {{ costs.currency }}</b
          >
          a month</span
        >
      </p>
    </template>
    <template v-if="shows('storage') && stored">
      <LevelVial
        v-for="p in fullest"
        :key="p.id"
        :name="p.name"
        :used="inTB(p.used_bytes ?? 0)"
        :of="inTB(roomIn(p))"
        unit="TB"
        :at-least="p.used_at_least"
        :line="0.8"
        :note="poolNote(p)" />
      <LevelVial
        name="Bays"
        :used="stored.sum.bays_filled"
        :of="stored.sum.bays"
        unit=""
        note="drive bays of all devices whose bays are known" />
      <p v-if="stored.sum.datasets" class="note">
        <span>{{ stored.sum.none_outside }} of {{ stored.sum.datasets }} have no copy out of the house</span>
        <span>{{ stored.sum.restored }} restored from a copy before</span>
      </p>
    </template>
    <template v-if="shows('service') && running">
      <LevelVial
        v-for="h in ofMemory"
        :key="h.id"
        :name="`${h.name} memory`"
        :used="inGB(takes(h))"
        :of="inGB(h.fitted_bytes ?? 0)"
        unit="GB"
        :unknown="h.unsaid"
        :at-least="h.unsaid > 0"
        limit
        :note="hostNote(h)" />
      <LevelVial
        v-if="ofCores"
        :name="`${ofCores.name} vCPUs`"
        :used="ofCores.vcpus ?? 0"
        :of="lanes(ofCores)"
        unit=""
        :note="`vCPUs given, on the ${ofCores.threads === undefined ? 'cores' : 'threads'} of ${ofCores.name}`" />
      <LevelVial
        v-if="running.largest"
        :name="`Without ${running.largest.name}`"
        :before="builtFigures?.largest_host === running.largest.name ? builtFigures.without_largest_start : undefined"
        :used="running.largest.starts"
        :of="running.largest.of"
        unit="start"
        :note="`of the running guests of the largest host, elsewhere`" />
      <LevelVial
        v-if="lost?.household_services"
        name="On one leg"
        :before="builtFigures?.household_one_leg"
        :used="lost.on_one_leg.length"
        :of="lost.household_services"
        unit=""
        note="services of the household that stop when some one thing goes" />
      <p v-if="dark?.circles.length" class="note">
        <span class="bad"
          >{{ dark.circles.length }} {{ dark.circles.length === 1 ? 'circle keeps' : 'circles keep' }} it from starting</span
        >
      </p>
    </template>
    <template v-if="here">
      <LevelVial
        v-if="shows('space')"
        name="Space"
        :before="before?.taken_u"
        :used="here.taken_u"
        :of="here.height_u"
        unit="U"
        :note="spaceWords(here)" />
      <LevelVial
        v-if="shows('weight')"
        name="Weight"
        :before="before && round(before.weight.known_kg)"
        :used="round(here.weight.known_kg)"
        :of="here.weight.holds_kg"
        unit="kg"
        :unknown="here.weight.unweighed.length"
        :at-least="here.weight.unweighed.length > 0"
        limit
        :note="weightNote" />
      <LevelVial
        v-if="shows('ports') && links && (links.of || links.unlisted)"
        name="Ports"
        :before="ports?.built?.used"
        :used="links.used"
        :of="links.unlisted ? undefined : links.of"
        unit=""
        :unknown="links.unlisted"
        :at-least="!!links.unlisted"
        :note="portsNote" />
      <LevelVial
        v-if="gear?.bays"
        name="Drive bays"
        :used="gear.bays_taken"
        :of="gear.bays"
        unit=""
        note="of all devices whose bays are known" />
      <p v-if="shows('space')" class="note">
        <span
          >Largest piece
          <b class="figure"
            >{{ before && before.largest_u !== here.largest_u ? `${before.largest_u}U → ` : '' }}{{ here.largest_u }}U</b
          ></span
        >
        <span v-if="shows('weight')">{{ weightNote }}</span>
      </p>
    </template>
    <template v-if="others.length">
      <i v-if="here" class="rule" />
      <button v-for="s in others" :key="s.rack_id" :aria-label="`To the rack ${s.rack}`" @click="work.pickRack(s.rack_id)">
        <LevelVial
          :name="s.rack"
          :before="beforeOf(s.rack_id)"
          :used="s.taken_u"
          :of="s.height_u"
          unit="U"
          :note="`${s.free_u}U free, largest piece ${s.largest_u}U`" />
      </button>
    </template>
  </section>
</template>

<style scoped>
.levels {
  display: flex;
  align-items: center;
  gap: 22px;
  padding: 6px 16px 8px;
  min-height: 62px;
  overflow: hidden;
  background: var(--sheet);
  border-top: 2px solid var(--ink);
}
.note {
  display: flex;
  flex-direction: column;
  font-size: 13px;
  line-height: 1.5;
  color: var(--soft);
  white-space: nowrap;
}
.note b {
  color: var(--ink);
}
.rule {
  align-self: stretch;
  margin: 4px 0;
  border-left: 1px solid var(--rule);
}
</style>
