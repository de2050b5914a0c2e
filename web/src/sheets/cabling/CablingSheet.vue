<script setup lang="ts">
// The Cabling sheet: where each port leads, every lead, the runs through the
// building, ports left, what is to buy, ways in, labels.
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import type { Device } from '../../api/client'
import TitleBlock from '../../frame/TitleBlock.vue'
import { useLab } from '../../lab/useLab'
import { title, traitsOf } from '../../lab/words'
import { useWork } from '../../work/work'
import { useCabling } from '../../work/useCabling'
import TakenNote from './TakenNote.vue'
import RackPorts from './RackPorts.vue'
import TrailsView from './TrailsView.vue'

const views = {
  trails: { text: 'Trails', is: TrailsView },
  rack: { text: 'All faces', is: RackPorts },
  leads: { text: 'Leads', is: defineAsyncComponent(() => import('./LeadsView.vue')) },
  runs: { text: 'Runs', is: defineAsyncComponent(() => import('./RunsView.vue')) },
  ports: { text: 'Ports left', is: defineAsyncComponent(() => import('./PortsView.vue')) },
  buy: { text: 'To buy', is: defineAsyncComponent(() => import('./BuyView.vue')) },
  ways: { text: 'Ways in', is: defineAsyncComponent(() => import('./WaysView.vue')) },
  labels: { text: 'Labels', is: defineAsyncComponent(() => import('./LabelsView.vue')) },
}
type View = keyof typeof views
const route = useRoute()
const work = useWork()
const { lab } = useLab()
const { endWords, pickCable } = useCabling()
const asked = String(route.query['view'] ?? '')
const shown = ref<View>(asked in views ? (asked as View) : 'trails')
const says = ref('')
const drawn = computed(() => shown.value === 'trails' || shown.value === 'rack')
const about = computed(() => [shown.value === 'trails' && work.device ? title(work.device) : shown.value === 'rack' ? work.rack?.name : '', says.value].filter(Boolean).join(' · '))
const trailsFile = computed(() => `/api/v1/files/trails.svg${work.device ? `?device_id=${work.device.id}` : ''}`)

function show(view: View) {
  shown.value = view
  says.value = ''
}

const isSwitch = (d: Device) => traitsOf(d.device_kind).bridges

/** The cable that the address names, once; or what has the most to follow, where nothing is picked. */
let sought = String(route.query['cable'] ?? '')
watch(
  lab,
  (now) => {
    if (!now) return
    const cable = now.cables.get(sought)
    sought = ''
    if (cable) pickCable(cable)
    if (work.device) return
    const first = work.inOrder.find(isSwitch) ?? [...now.devices.values()].find(isSwitch)
    if (first) work.pick(first.id)
  },
  { immediate: true },
)
</script>

<template>
  <main class="sheet grid-paper">
    <div class="bar">
      <div class="parts" role="group" aria-label="What is shown">
        <button v-for="(v, k) in views" :key="k" :aria-pressed="shown === k" @click="show(k)">{{ v.text }}</button>
      </div>
      <p v-if="drawn" class="soft about" role="status">{{ about }}</p>
      <a v-if="shown === 'trails' && work.device" class="soft save" :href="trailsFile" download>SVG</a>
    </div>
    <div v-if="work.leading && drawn" class="leading">
      <p role="status">A cable is being led from {{ endWords(work.port) }}: pick where it goes. <button @click="work.leading = false">Leave it</button></p>
      <TakenNote />
    </div>
    <p v-if="lab && !lab.devices.size" class="none">Nothing is written down yet. Type what is in the rack first, then what is plugged into what: core/1-24 - PP1/1-24 0.25m yellow cat6.</p>
    <component :is="views[shown].is" v-else @says="says = $event" />
    <TitleBlock :sheet="work.device && shown === 'trails' ? `Cabling, ${title(work.device)}` : 'Cabling'" />
  </main>
</template>

<style scoped>
.about {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.save {
  color: var(--water);
}
.leading {
  margin: 0 18px 8px;
  padding: 6px 10px;
  background: var(--sheet);
  border-left: 3px solid var(--water);
}
.leading button {
  text-decoration: underline;
}
.none {
  padding: 20px;
}
</style>
