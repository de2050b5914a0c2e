<script setup lang="ts">
// The port that is picked: where it leads, what holds it down, the cable in it,
// and what can be done with that.
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api } from '../../api/address'
import CardFrame from '../../card/CardFrame.vue'
import IfGone from '../../card/IfGone.vue'
import JacketMark from '../../draw/JacketMark.vue'
import { heldWords, legWords, reachWords, trailLength } from '../../lab/trails'
import { useLab } from '../../lab/useLab'
import { useReport } from '../../lab/useReport'
import { whatIs, title } from '../../lab/words'
import { useWork } from '../../work/work'
import TakenNote from './TakenNote.vue'
import LeadFacts from './LeadFacts.vue'
import PortFacts from './PortFacts.vue'
import { kindName } from './choices'
import { sameEnd, useCabling } from '../../work/useCabling'

const work = useWork()
const router = useRouter()
const route = useRoute()
/** The sheet says it above its faces. */
const onSheet = computed(() => route.path === '/cabling')
const { lab } = useLab()
const { cableAt, unplug, open, swap } = useCabling()
const device = computed(() => lab.value?.devices.get(work.port?.device_id ?? ''))
const { data: said } = useReport(() =>
  device.value && work.port ? api('/api/v1/devices/{id}/port', { id: device.value.id, port: work.port.port, rear: !!work.port.rear }) : '',
)
/** Of this port, not of the one before it. */
const info = computed(() => (sameEnd(said.value?.end, work.port) ? said.value : undefined))
const jack = computed(() => info.value?.jack)
const cable = computed(() => (lab.value && work.port ? cableAt(work.port) : undefined))
const trail = computed(() => info.value?.trail)
const lead = computed(() => (info.value?.lead?.cable_id === cable.value?.id ? info.value?.lead : undefined))
const what = computed(() =>
  [
    (device.value ? whatIs(device.value) : '') + ' port',
    info.value?.name,
    info.value?.poe_out_type ? `PoE type ${info.value.poe_out_type}` : '',
  ]
    .filter(Boolean)
    .join(' · '),
)
const far = computed(() => reachWords(info.value?.reaches, info.value?.ends))
const held = computed(() => (trail.value ? heldWords(trail.value) : ''))
/** What goes dark when the lead is pulled, or else what keeps fewest other links. */
const dark = computed(() => {
  const list = info.value?.dark ?? []
  const gone = list.filter((d) => !d.keeps)
  if (gone.length) return `${gone.map((d) => d.title).join(' and ')} ${gone.length === 1 ? 'goes' : 'go'} dark`
  const [least] = list
  return least ? `${least.title} keeps ${least.keeps} other link${least.keeps === 1 ? '' : 's'}` : ''
})
const swapping = ref(false)
const swapTo = ref('')
const { data: whole } = useReport(() => (swapping.value && device.value ? api('/api/v1/devices/{id}/trails', { id: device.value.id }) : ''))
const others = computed(
  () =>
    whole.value?.jacks.filter(
      (j) => j.cable_id !== jack.value?.cable_id && j.family === jack.value?.family && !!j.rear === !!jack.value?.rear,
    ) ?? [],
)
async function swapWith() {
  const to = others.value.find((j) => j.port === swapTo.value)
  if (!work.port || !to || !(await swap(work.port, { ...work.port, port: to.port }))) return
  swapping.value = false
  work.port = { ...work.port, port: to.port }
}
const fixed = computed(() => lab.value?.view.kind === 'past')
</script>

<template>
  <CardFrame v-if="lab && device && work.port" open class="port-card" @close="work.port = undefined">
    <h2 class="title">{{ title(device) }} {{ jack?.name || work.port.port }}<template v-if="work.port.rear"> rear</template></h2>
    <p class="sub">{{ what }}</p>
    <p v-if="jack?.broken" class="bad">Broken.</p>
    <template v-if="fixed">
      <p v-if="jack?.reserved_for">Reserved for {{ jack.reserved_for }}.</p>
      <p v-if="jack?.note" class="soft">{{ jack.note }}</p>
    </template>
    <template v-if="trail">
      <h2>Trail</h2>
      <dl>
        <dt>Reaches</dt>
        <dd>
          <b v-if="far">{{ far }}</b><i v-else class="unknown">? unknown</i>
        </dd>
        <dt>Length</dt>
        <dd class="figure">{{ trailLength(trail) }}{{ trail.pieces.length > 1 ? ` in ${trail.pieces.length} pieces` : '' }}</dd>
        <template v-if="held"
          ><dt>Limited to</dt>
          <dd>{{ held }}</dd></template
        >
        <template v-if="trail.broken?.length"
          ><dt>Broken at</dt>
          <dd class="bad">{{ trail.broken.join(', ') }}</dd></template
        >
      </dl>
      <ol v-if="trail.pieces.length > 1" class="way" aria-label="On the way">
        <li v-for="(p, i) in trail.pieces" :key="p.cable_id">
          <JacketMark :hex="p.hex" /><span
            >{{ legWords(p, kindName(p.cable_kind)) }}
            <b>to {{ trail.stops[i + 1] ? `${trail.stops[i + 1]?.title} ${trail.stops[i + 1]?.port}` : '?' }}</b></span
          >
        </li>
      </ol>
    </template>
    <template v-if="cable">
      <h2>Lead at this end</h2>
      <LeadFacts :cable="cable" :at="work.port" :lead="lead" :still="fixed" />
      <h2>If pulled</h2>
      <p v-if="dark">{{ dark }}</p>
      <IfGone :record="{ kind: 'cable', id: cable.id }" plain />
      <div v-if="!fixed" class="buttons">
        <v-btn size="small" @click="unplug(cable)">Unplug</v-btn>
        <v-btn size="small" @click="open(cable, work.port)">Take this end out</v-btn>
        <v-btn size="small" @click="work.leading = !work.leading">{{ work.leading ? 'Cancel' : 'Move the other end' }}</v-btn>
        <v-btn size="small" @click="swapping = !swapping">Swap…</v-btn>
        <v-btn size="small" :href="`/api/v1/files/labels.pdf?cable_id=${cable.id}&code=true`" download>Print label</v-btn>
      </div>
      <div v-if="swapping" class="swap">
        <select v-model="swapTo" class="field" aria-label="Swap with port">
          <option value="">with port…</option>
          <option v-for="j in others" :key="j.port" :value="j.port">{{ j.port }}{{ j.to ? `: ${j.to}` : ', free' }}</option>
        </select>
        <v-btn :disabled="!swapTo" @click="swapWith">Swap</v-btn>
      </div>
      <p v-if="work.leading" class="hint" role="status">Pick the port where the other end goes. Ports that it fits are filled.</p>
    </template>
    <template v-else-if="!fixed">
      <p class="soft">Free.</p>
      <p v-if="work.leading" class="hint" role="status">
        Pick the port where it goes, on this face or, from the staff, on another. Ports that a cable fits are filled.
      </p>
      <div class="buttons">
        <v-btn @click="work.leading = !work.leading">{{ work.leading ? 'Cancel' : 'Connect a cable' }}</v-btn>
      </div>
    </template>
    <TakenNote v-if="!onSheet" />
    <template v-if="jack && !fixed">
      <h2>This port</h2>
      <PortFacts :device="device" :jack="jack" />
    </template>
    <h2>Its device</h2>
    <div class="buttons">
      <v-btn @click="router.push(`/pull/${device.id}`)">Take it out</v-btn>
    </div>
  </CardFrame>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 96px 1fr;
  column-gap: 6px;
}
dt,
dd {
  margin: 0;
  padding: 5px 0 4px;
  border-bottom: 1px solid var(--rule);
}
dt {
  font-size: 13px;
  color: var(--soft);
}
.way {
  margin-top: 8px;
  font-size: 13px;
  list-style: none;
}
.way li {
  display: flex;
  align-items: baseline;
  padding: 2px 0;
}
.way b {
  font-weight: 600;
  white-space: nowrap;
}
.bad {
  color: var(--red);
}
.hint {
  margin-top: 10px;
  padding-left: 8px;
  border-left: 3px solid var(--water);
}
.swap {
  display: flex;
  gap: 8px;
  margin-top: 8px;
}
.swap select {
  min-width: 0;
  flex: 1;
}
</style>
