<script setup lang="ts">
// The map of the network: which VLAN is lit, what the links are looked at for,
// what is folded; and the same as a list.
import { useDebounceFn } from '@vueuse/core'
import { computed, nextTick, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import type { Schemas } from '../../api/client'
import { attempt, useLab } from '../../lab/useLab'
import { keep, png, svgText } from '../../draw/exportDrawing'
import { graphOf } from '../../draw/network/graph'
import { engine, layOut, type Layout, type Placed, type Run } from '../../draw/network/layout'
import { useNetwork, vlanKey } from '../../work/useNetwork'
import { usePhone } from '../../work/usePhone'
import { useWay, useWayFound } from '../../work/useWay'
import { useWork } from '../../work/work'
import MapDrawing from './MapDrawing.vue'
import MapList from './MapList.vue'
import LinkPanel from './LinkPanel.vue'
import WayPanel from './WayPanel.vue'
import VlanChips from './VlanChips.vue'
import { lenses, type NetLens } from './lenses'
import { kept } from './kept'

const emit = defineEmits<{ says: [text: string] }>()
const work = useWork()
const { lab } = useLab()
const router = useRouter()
const phone = usePhone()
const { map, vlans, lit, links } = useNetwork()
const { between, ask } = useWay()
const { way } = useWayFound()
void engine() // so that it is there when the map is

const lens = ref<NetLens>('vlans')
const listed = ref(phone.value)
const folded = ref(new Set<string>())
const opened = ref(new Set<string>())
const looking = ref('')
const drawing = ref<InstanceType<typeof MapDrawing>>()
const layout = shallowRef<Layout | undefined>(kept.layout)

const places = computed(() => [...new Set((map.value?.nodes ?? []).flatMap((n) => n.place ?? []))].sort())
/** With the lines outside and the tunnels. */
const all = computed(
  () => map.value && { ...map.value, nodes: [...map.value.beyond, ...map.value.nodes], links: [...map.value.ways, ...map.value.links] },
)
const graph = computed(() => all.value && graphOf(all.value, { places: folded.value, opened: opened.value }))
/** What has to be laid out again when it changes; what links carry does not move them. */
const shape = (g: NonNullable<typeof graph.value>) =>
  JSON.stringify([
    g.boxes.map((b) => [b.id, b.title, b.stratum, b.holds.map((n) => n.title)]),
    g.bundles.map((b) => [b.id, b.a, b.b, Math.ceil(b.strands.length / 3)]),
  ])

const mostBoxes = 300
let asked = false
let turn = 0
watch(
  graph,
  async (now) => {
    if (!now) return
    // More than anyone could read is folded by place until one asks for it.
    if (now.boxes.length > mostBoxes && !asked && places.value.length) {
      asked = true
      folded.value = new Set(places.value)
      return
    }
    const as = shape(now)
    const mine = ++turn
    if (as === kept.shape && kept.layout) {
      const [boxes, bundles] = [new Map(now.boxes.map((b) => [b.id, b])), new Map(now.bundles.map((b) => [b.id, b]))]
      layout.value = {
        ...kept.layout,
        boxes: kept.layout.boxes.flatMap((b) => boxes.get(b.id) && { ...b, ...boxes.get(b.id) }) as Placed[],
        runs: kept.layout.runs.flatMap((r) => bundles.get(r.id) && { ...r, ...bundles.get(r.id) }) as Run[],
      }
    } else {
      const done = await layOut(now.boxes, now.bundles, kept.places)
      if (mine !== turn) return
      layout.value = done
    }
    kept.layout = layout.value
    kept.shape = as
    kept.places = new Map(layout.value.boxes.map((b) => [b.id, b.x]))
  },
  { immediate: true },
)

const litAt = computed(() => vlans.value.findIndex((v) => vlanKey(v) === lit.value))
const pickedRun = computed(() => layout.value?.runs.find((r) => r.links[0] === links.value[0])?.id ?? '')

watch(
  [map, litAt],
  () => {
    const m = map.value
    if (!m) return
    const rests = m.rests ? `${m.rests} ${m.rests === 1 ? 'link rests' : 'links rest'}` : ''
    emit('says', [`${m.nodes.length} devices, ${m.links.length} links`, rests].filter(Boolean).join(', '))
  },
  { immediate: true },
)
// What is picked elsewhere is shown here.
watch(
  () => work.deviceId,
  (id) => id && void nextTick(() => drawing.value?.show(id)),
)

/** The subnet whose addresses are shown, '' for all. */
const subnet = ref('')
const subnets = computed(() => [...(lab.value?.subnets.values() ?? [])].map((s) => ({ id: s.id, cidr: s.cidr })))
const below = computed(() => {
  const at = new Map<string, string[]>()
  if (lens.value === 'subnets')
    for (const a of map.value?.addresses ?? [])
      if (!subnet.value || a.subnet_id === subnet.value) at.set(a.device_id, [...(at.get(a.device_id) ?? []), a.address])
  return new Map([...at].map(([id, list]) => [id, list.length > 1 ? `${list[0]} +${list.length - 1}` : (list[0] ?? '')]))
})

function pick(id: string) {
  links.value = []
  if (map.value?.beyond.some((n) => n.id === id)) return void router.push('/networks/outside')
  work.pick(id)
}
/** From what is picked to another device. */
function to(id: string) {
  links.value = []
  ask({ from: work.deviceId, to: id })
}
function leaveWay() {
  ask({ to: '' })
}
/** What the way goes over, by the IDs of its devices and cables. */
const onWay = computed(() => new Set(way.value && between.value ? way.value.hops.flatMap((h) => [h.device_id, ...h.cable_ids]) : []))
function pickRun(run: Run) {
  links.value = run.links
}
function open(box: Placed) {
  if (box.gathers === 'place') fold(box.title, false)
  else opened.value = new Set([...opened.value, box.id.replace('leaves ', '')])
  void nextTick(() => drawing.value?.focusOn(box.holds[0]?.id ?? ''))
}
function fold(place: string, on: boolean) {
  const next = new Set(folded.value)
  if (on) next.add(place)
  else next.delete(place)
  folded.value = next
}
const look = useDebounceFn(() => {
  const said = looking.value.trim().toLowerCase()
  const found = said && map.value?.nodes.find((n) => n.title.toLowerCase().startsWith(said) || n.title.toLowerCase().includes(said))
  if (found) drawing.value?.show(found.id)
}, 120)
function go() {
  const said = looking.value.trim().toLowerCase()
  const found =
    map.value?.nodes.find((n) => n.title.toLowerCase() === said) ?? map.value?.nodes.find((n) => n.title.toLowerCase().includes(said))
  if (!said || !found) return
  pick(found.id)
  void drawing.value?.focusOn(layout.value?.boxes.find((b) => b.holds.some((n) => n.id === found.id))?.id ?? found.id)
}
function clear() {
  links.value = []
  leaveWay()
}

/** The whole map as a file, at its own size. */
async function save(as: 'svg' | 'png') {
  drawing.value?.fit()
  await nextTick()
  const svg = drawing.value?.svg
  if (!svg) return
  await attempt(async () => {
    const text = await svgText([svg], `${lab.value?.settings.name ?? 'the lab'} · network`)
    keep(`network.${as}`, as === 'svg' ? new Blob([text], { type: 'image/svg+xml' }) : await png(text))
  })
}
const fewer = computed(() => opened.value.size > 0)
type MapNode = Schemas['MapNode']
const nodes = computed<MapNode[]>(() => map.value?.nodes ?? [])
</script>

<template>
  <div class="bar tools">
    <div class="segments" role="group" aria-label="What links are looked at for">
      <button v-for="l in lenses" :key="l.lens" :aria-pressed="lens === l.lens" @click="lens = l.lens">{{ l.text }}</button>
    </div>
    <input
      v-if="!listed"
      v-model="looking"
      class="field find-on-map"
      type="search"
      placeholder="find"
      aria-label="Find on the map"
      @input="look"
      @keydown.enter="go" />
    <v-menu v-if="!listed && places.length > 1" :close-on-content-click="false">
      <template #activator="{ props: menu }"><button class="soft line" v-bind="menu">Fold ▾</button></template>
      <div class="menu">
        <label v-for="p in places" :key="p">
          <input type="checkbox" :checked="folded.has(p)" @change="fold(p, ($event.target as HTMLInputElement).checked)" /> {{ p }}
        </label>
      </div>
    </v-menu>
    <button v-if="fewer && !listed" class="soft line" @click="opened = new Set()">Gather</button>
    <span class="files">
      <button class="soft line" :aria-pressed="listed" @click="listed = !listed">{{ listed ? 'Map' : 'List' }}</button>
      <v-menu>
        <template #activator="{ props: menu }"><button class="soft line" v-bind="menu">Export ▾</button></template>
        <div class="menu">
          <button v-if="!listed" @click="save('svg')">Drawing (SVG)</button>
          <button v-if="!listed" @click="save('png')">Picture (PNG)</button>
          <a href="/api/v1/files/network.dot" download>Graph (DOT)</a>
        </div>
      </v-menu>
    </span>
  </div>
  <VlanChips v-if="lens === 'vlans' && !onWay.size" />
  <div v-if="lens === 'subnets' && !listed" class="bar tools">
    <select v-model="subnet" class="field" aria-label="Subnet">
      <option value="">all subnets</option>
      <option v-for="s in subnets" :key="s.id" :value="s.id">{{ s.cidr }}</option>
    </select>
    <router-link v-if="subnet" class="soft" :to="`/networks/addresses?subnet=${subnet}`">its ruler</router-link>
  </div>
  <p v-if="map && !nodes.length" class="none">
    No links yet. Type what is plugged into what, such as core/1 - loft switch/1, and which VLANs ports carry: core/1 tagged 20,30.
  </p>
  <MapList v-else-if="all && listed" :map="all" :lit="litAt" @pick="pick" />
  <MapDrawing
    v-else-if="layout"
    ref="drawing"
    :layout="layout"
    :vlans="vlans"
    :lens="lens"
    :lit="lens === 'vlans' ? litAt : -1"
    :picked="work.deviceId"
    :picked-run="pickedRun"
    :way="onWay"
    :below="below"
    @pick="pick"
    @to="to"
    @run="pickRun"
    @open="open"
    @clear="clear" />
  <WayPanel v-if="way && between && !links.length" :way="way" @pick="pick" @close="leaveWay" />
  <LinkPanel v-if="links.length && map" :map="map" :links="links" @close="links = []" />
</template>

<style scoped>
.tools {
  padding-top: 0;
}
.bar.tools {
  column-gap: 9px;
}
.find-on-map {
  width: 76px;
}
.line {
  text-decoration: underline;
  text-underline-offset: 3px;
}
.line[aria-pressed='true'] {
  color: var(--ink);
}
.files {
  display: flex;
  gap: 12px;
  margin-left: auto;
}
.menu {
  display: grid;
  gap: 6px;
  padding: 10px 14px;
  background: var(--sheet);
  border: 1px solid var(--ink);
}
.none {
  padding: 20px;
}
</style>
