<script setup lang="ts">
// The card of a device: over what any record's has, what it is for, what is in
// it and on it, whether it fits, how it is cabled and what it looks like.
import { computed, defineAsyncComponent, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { Device } from '../api/client'
import type { LabState } from '../lab/useLab'
import { isGuest, traitsOf } from '../lab/words'
import { useActions } from '../work/useActions'
import { useWork } from '../work/work'
import FactList from './FactList.vue'
import FitLines from './FitLines.vue'
import PartsField from './PartsField.vue'
import PhotoStrip from './PhotoStrip.vue'
import RecordCard from './RecordCard.vue'
import SeatMaps from './SeatMaps.vue'
import StateMark from './StateMark.vue'
import { groupOf, useCard } from './useCard'

const PartDialog = defineAsyncComponent(() => import('./PartDialog.vue'))
const CablesOn = defineAsyncComponent(() => import('./CablesOn.vue'))
const NetworkOn = defineAsyncComponent(() => import('./NetworkOn.vue'))
const PoolsOn = defineAsyncComponent(() => import('./PoolsOn.vue'))
const RunsOn = defineAsyncComponent(() => import('./RunsOn.vue'))
const PowerOn = defineAsyncComponent(() => import('./PowerOn.vue'))
const AddressesOn = defineAsyncComponent(() => import('./AddressesOn.vue'))
const IfGone = defineAsyncComponent(() => import('./IfGone.vue'))
const SheetDialog = defineAsyncComponent(() => import('./SheetDialog.vue'))

const props = defineProps<{ lab: LabState; device: Device }>()
const work = useWork()
const router = useRouter()
const { removePicked } = useActions()
const key = computed(() => ({ kind: 'device' as const, id: props.device.id }))
const { data: card } = useCard(() => key.value)
const inside = computed(() => card.value?.inside)
const purpose = computed(() => groupOf(card.value, '').filter((f) => f.field === 'purpose'))
const sheet = computed(() => props.lab.spec_sheets.get(props.device.sheet_id ?? ''))

/** Where power is looked at, what it draws comes first; where storage is, its pools; where services are, what runs on it. */
const route = useRoute()
const atPower = computed(() => route.path.startsWith('/power'))
const atStorage = computed(() => route.path.startsWith('/storage'))
const atServices = computed(() => route.path.startsWith('/services'))
/** Nobody can touch a VM or a container: it has no parts, leads and photos. */
const guest = computed(() => isGuest(props.device))

const part = ref('')
const picking = ref(false)
const put = ref<{ start: (text: string) => void }>()
const asked = ['takes_u', 'height_mm', 'width_mm', 'depth_mm', 'weight_kg']
const holdsParts = computed(() => !traitsOf(props.device.device_kind).passive && !isGuest(props.device))
/** What the maps of bays and slots show need not be said again. */
const mapped: Record<string, string[]> = {
  drive: ['bays'],
  memory: ['memory_slots', 'memory_type', 'memory_slot_bytes', 'memory_most_bytes'],
  processor: ['sockets', 'socket_type'],
  card: ['slots'],
}
const drawn = computed(() => inside.value?.seats.flatMap((m) => mapped[m.part_kind] ?? []))
/** Groups that have something to show without a fact. */
const headed = computed(() => [
  ...(inside.value?.seats.length || inside.value?.loose.length || holdsParts.value ? ['Inside'] : []),
  ...(inside.value?.fit.length ? ['Measures'] : []),
])
/** Panels and plates are part of links themselves. */
const networked = computed(() => !traitsOf(props.device.device_kind).joined)
const gaps = computed(() => inside.value?.gaps.length ?? 0)

function walk() {
  work.walkFrom = props.device.id
  void router.push('/walk')
}
</script>

<template>
  <RecordCard :record="key" :card="card" :apart="['purpose', 'sheet_id']" :drawn="drawn" :asked="asked" :headed="headed">
    <template #head>
      <StateMark :state="device.state" />
      <div class="purpose"><FactList :record="key" :facts="purpose" /></div>
      <dl v-if="inside?.summary.length" class="summary">
        <template v-for="s in inside.summary" :key="s.title"
          ><dt>{{ s.title }}</dt>
          <dd class="figure">{{ s.text }}</dd></template
        >
      </dl>
    </template>
    <template #first>
      <PowerOn v-if="atPower" :device="device.id" />
      <PoolsOn v-if="atStorage" :device="device.id" />
      <RunsOn v-if="atServices || guest" :device="device" />
      <div v-if="!guest" class="row sheet-row">
        <span class="term">Spec sheet</span>
        <button @click="picking = true">{{ sheet ? sheet.name : 'pick one' }}</button>
      </div>
    </template>
    <template v-if="inside" #Inside>
      <SeatMaps :device="device.id" :maps="inside.seats" :loose="inside.loose" @part="part = $event" @empty="put?.start($event)" />
      <PartsField v-if="holdsParts && lab.view.kind !== 'past'" ref="put" :device="device.id" />
    </template>
    <template v-if="inside?.fit.length" #Measures><FitLines :checks="inside.fit" /></template>
    <IfGone :record="key" />
    <CablesOn v-if="!guest" :device="device" />
    <PoolsOn v-if="!atStorage && !guest" :device="device.id" />
    <RunsOn v-if="!atServices && !guest" :device="device" />
    <PowerOn v-if="!atPower && !guest" :device="device.id" />
    <NetworkOn v-if="networked && !guest" :device="device.id" />
    <AddressesOn v-if="networked" :device="device.id" />
    <template v-if="!guest" #end><PhotoStrip :device="device.id" :fixed="lab.view.kind === 'past'" /></template>
    <template #buttons
      ><v-btn v-if="gaps" @click="walk">{{ gaps }} gap{{ gaps === 1 ? '' : 's' }} ›</v-btn></template
    >
    <template #remove><v-btn @click="removePicked">Remove</v-btn></template>
  </RecordCard>
  <PartDialog v-if="part" :id="part" @close="part = ''" />
  <SheetDialog v-if="picking" :device="device" @close="picking = false" />
</template>

<style scoped>
.purpose :deep(.term) {
  display: none;
}
.purpose :deep(.row) {
  grid-template-columns: 1fr;
}
.sheet-row {
  display: grid;
  grid-template-columns: 96px 1fr;
  column-gap: 6px;
  align-items: baseline;
  min-height: 29px;
  border-bottom: 1px solid var(--rule);
}
.sheet-row .term {
  font-size: 13px;
  color: var(--soft);
}
.sheet-row button {
  padding: 3px 0;
  text-align: left;
  text-decoration: underline dotted var(--soft);
  text-underline-offset: 4px;
}
.summary {
  display: grid;
  grid-template-columns: 96px 1fr;
  column-gap: 6px;
  border-bottom: 1px solid var(--rule);
}
.summary dt {
  font-size: 13px;
  line-height: 28px;
  color: var(--soft);
}
.summary dd {
  margin: 0;
  padding: 5px 0 3px;
  line-height: 1.4;
}
@media (max-width: 700px) {
  .sheet-row {
    min-height: 46px;
  }
  .sheet-row button {
    min-height: 44px;
  }
}
</style>
