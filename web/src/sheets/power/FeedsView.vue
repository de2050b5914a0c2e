<script setup lang="ts">
// What feeds what, drawn; what nothing says the feed of, and the losses that leave most
// dark.
import { useElementSize } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '../../api/address'
import type { Schemas } from '../../api/client'
import { keep, svgText } from '../../draw/exportDrawing'
import { layOut } from '../../draw/feeds/layout'
import { say, useLab } from '../../lab/useLab'
import { useReport } from '../../lab/useReport'
import { useCabling, usePartners } from '../../work/useCabling'
import { usePhone } from '../../work/usePhone'
import { usePower, wattsWords, type Level, type PowerNode } from '../../work/usePower'
import { useWork } from '../../work/work'
import FeedsDrawing from './FeedsDrawing.vue'
import FeedsList from './FeedsList.vue'
import '../../frame/views.css'

const emit = defineEmits<{ says: [text: string] }>()
const work = useWork()
const router = useRouter()
const phone = usePhone()
const { lab } = useLab()
const { power, circuit, level, lost } = usePower()
const { leadTo } = useCabling()
const { data: losses } = useReport(() => api('/api/v1/reports/losses'))
const room = ref<HTMLElement>()
const { width } = useElementSize(room)
const drawing = ref<InstanceType<typeof FeedsDrawing>>()
const levels: { value: Level; text: string }[] = [
  { value: 'idle', text: 'idle' },
  { value: 'typical', text: 'typical' },
  { value: 'most', text: 'most' },
  { value: 'boot', text: 'boot' },
]

const nodes = computed(() => power.value?.nodes ?? [])
/** Places are folded by hand, and by themselves where there is more than anyone could read. */
const mostFed = 60
const folded = ref(new Set<string>())
/** Places with something to fold. */
const places = computed(() => {
  const many = new Map<string, number>()
  for (const n of nodes.value) if (n.kind === 'device' && n.fed_by.length && n.place) many.set(n.place, (many.get(n.place) ?? 0) + 1)
  return [...many].flatMap(([place, n]) => (n > 1 ? [place] : [])).sort()
})
let asked = false
watch(
  nodes,
  (now) => {
    if (!asked && now.filter((n) => n.kind === 'device' && n.fed_by.length).length > mostFed) {
      asked = true
      folded.value = new Set(places.value)
    }
  },
  { immediate: true },
)
function fold(place: string) {
  const next = new Set(folded.value)
  if (!next.delete(place)) next.add(place)
  folded.value = next
}
const layout = computed(() => power.value && width.value > 0 && layOut(nodes.value, power.value.feeds, folded.value, width.value - 6))
const unknown = computed(() => nodes.value.filter((n) => n.kind === 'device' && !n.fed_by.length && n.state === 'running'))
const picked = computed(() => work.deviceId || circuit.value)
watch(
  () => work.deviceId,
  (id) => id && void nextTick(() => drawing.value?.show(id)),
)
function pick(n: PowerNode) {
  circuit.value = n.kind === 'circuit' ? n.id : ''
  if (n.kind === 'circuit') work.deviceId = ''
  else work.pick(n.id)
  work.cardOpen = true
}

// A supply is led to an outlet.
const leading = computed(() => (work.leading ? work.port : undefined))
const feeders = computed(() => (leading.value ? nodes.value.filter((n) => n.outlets.some((o) => !o.to)).map((n) => n.id) : []))
const partners = usePartners(() => feeders.value)
const outletsOf = (feeder: string) => {
  const free = new Set(nodes.value.find((n) => n.id === feeder)?.outlets.flatMap((o) => (o.to ? [] : [o.port])))
  return [...(partners.value?.values() ?? [])].filter((p) => p.device_id === feeder && free.has(p.port))
}
const may = computed(() => new Set(leading.value ? feeders.value.filter((id) => outletsOf(id).some((p) => !p.why)) : []))
function lead(device: string, port: string) {
  work.pick(device)
  work.port = { device_id: device, port }
  work.leading = true
}
function cancel() {
  work.leading = false
  work.port = undefined
}
async function plug(feeder: string) {
  const device = leading.value?.device_id
  // Dropped before one could know where it fits: it is known in a moment.
  for (let i = 0; !partners.value && i < 40; i++) await new Promise((done) => setTimeout(done, 50))
  const to = outletsOf(feeder)
  const fits = to.find((p) => !p.why)
  const name = nodes.value.find((n) => n.id === feeder)?.name ?? ''
  if (fits) await leadTo({ device_id: feeder, port: fits.port }, fits.cable_kind)
  else say(to[0]?.why ? `It does not go into ${name}: ${to[0].why}.` : `${name} has no free outlet.`, true)
  cancel()
  if (device) work.pick(device)
}
const leadWords = computed(() => {
  const n = nodes.value.find((o) => o.id === leading.value?.device_id)
  return n ? `${leading.value?.port} of ${n.name} goes to: pick what is to feed it, or Escape.` : ''
})

// In the bar, so that nothing moves while something is dragged.
watch(
  [power, leadWords],
  ([now, leads]) => {
    const all = now?.lab
    emit('says', leads || (!all?.typical ? '' : `${wattsWords(all.typical, all.unknown)} W now`))
  },
  { immediate: true },
)

const few = 6
const worst = computed(() => (losses.value?.losses ?? []).filter((l) => !l.part && (l.dark.length || l.on_battery.length)).slice(0, few))
const darkWords = (l: Schemas['PowerLoss']) =>
  [
    l.dark.length && `${l.dark.length > 2 ? l.dark.length : l.dark.join(', ')} dark at once`,
    l.on_battery.length && `${l.on_battery.length} on battery`,
  ]
    .filter(Boolean)
    .join(', ')
function lose(l: Schemas['PowerLoss']) {
  lost.value = l
  void router.push('/power/lost')
}
async function save() {
  const svg = drawing.value?.svg
  if (svg)
    keep('feeds.svg', new Blob([await svgText([svg], `${lab.value?.settings.name ?? 'Lab'}: what feeds what`)], { type: 'image/svg+xml' }))
}
</script>

<template>
  <div class="paper-view" data-scroll>
    <div class="choose">
      <div class="segments" role="group" aria-label="How hard all works">
        <button v-for="l in levels" :key="l.value" :aria-pressed="level === l.value" @click="level = l.value">{{ l.text }}</button>
      </div>
      <template v-if="!phone && places.length > 1">
        <span class="soft">fold</span>
        <button v-for="p in places" :key="p" class="chip" :aria-pressed="folded.has(p)" @click="fold(p)">{{ p }}</button>
      </template>
      <button v-if="!phone" class="save" @click="save">SVG</button>
    </div>
    <div ref="room" class="room">
      <p v-if="power && !power.feeds.length">
        Nothing says yet what feeds what. Lines such as <code class="figure">circuit "kitchen 4": 16A 230V</code>,
        <code class="figure">wall outlet "left": 2 outlets uk, on circuit "kitchen 4"</code> and
        <code class="figure">left/out1 - keep/in1</code> do.
      </p>
      <FeedsList v-else-if="power && phone" :power="power" :level="level" @pick="pick" />
      <FeedsDrawing
        v-else-if="layout"
        ref="drawing"
        :layout="layout"
        :nodes="nodes"
        :places="power?.places ?? []"
        :level="level"
        :picked="picked"
        :leading="leading"
        :may="may"
        @pick="pick"
        @open="fold"
        @lead="lead"
        @plug="plug"
        @cancel="cancel" />
    </div>
    <div v-if="power?.feeds.length" class="below">
      <section v-if="unknown.length" aria-label="What feeds them is not known">
        <h2>Plugged in nowhere that is known</h2>
        <p class="chips">
          <button v-for="n in unknown" :key="n.id" class="chip" @click="n.supplies[0] ? lead(n.id, n.supplies[0].port) : pick(n)">
            {{ n.name }} <span class="figure">{{ wattsWords(n.watts[level], n.unknown_at[level]) }} W</span>
          </button>
        </p>
      </section>
      <section v-if="worst.length" aria-label="If one thing is lost">
        <h2>If one thing is lost</h2>
        <button v-for="l in worst" :key="l.what" class="loss" @click="lose(l)">
          <b>{{ l.what }}</b> <span>{{ darkWords(l) }}</span>
        </button>
      </section>
    </div>
  </div>
</template>

<style scoped>
.choose {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
}
.chip {
  padding: 1px 9px;
  font: 500 13px/1.6 var(--names);
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
}
.chip[aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
}
.save {
  margin-left: auto;
  font: 500 13px var(--names);
  text-decoration: underline;
}
.below {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 8px 26px;
}
h2 {
  margin: 4px 0;
  font: 600 14px var(--names);
}
.chips {
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
}
.loss {
  display: grid;
  grid-template-columns: 110px 1fr;
  gap: 10px;
  width: 100%;
  padding: 2px 0;
  text-align: left;
  border-bottom: 1px solid var(--rule);
}
.loss b {
  font: 600 14px var(--names);
}
.loss span {
  color: var(--red);
}
.loss:hover b {
  color: var(--red);
}
@media (max-width: 700px) {
  .below {
    grid-template-columns: 1fr;
  }
  .chip,
  .loss {
    min-height: 44px;
  }
}
</style>
