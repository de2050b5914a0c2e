<script setup lang="ts">
// What is known of a device: what it is for, its facts with their units, what
// is in it and on it, what is missing.
import { computed, defineAsyncComponent, ref } from 'vue'
import { useRouter } from 'vue-router'
import type { Device, Schemas } from '../api/client'
import { unitMM } from '../draw/scale'
import { useLab, type LabState } from '../lab/useLab'
import { useReport } from '../lab/useReport'
import { capital, height, kindWords, standing, title, traitsOf, whereTyped, whereWords } from '../lab/words'
import { useActions } from '../work/useActions'
import { useWork } from '../work/work'
import FactList from './FactList.vue'
import FactRow from './FactRow.vue'
import FitLines from './FitLines.vue'
import HistoryList from './HistoryList.vue'
import NotesField from './NotesField.vue'
import PartsField from './PartsField.vue'
import PhotoStrip from './PhotoStrip.vue'
import SeatMaps from './SeatMaps.vue'
import StateMark from './StateMark.vue'
import { kinds, states } from './choices'

const PartDialog = defineAsyncComponent(() => import('./PartDialog.vue'))
const CablesOn = defineAsyncComponent(() => import('./CablesOn.vue'))
const SheetDialog = defineAsyncComponent(() => import('./SheetDialog.vue'))

const props = defineProps<{ lab: LabState; device: Device }>()
const work = useWork()
const router = useRouter()
const { held } = useLab()
const { removePicked } = useActions()
const { data: card } = useReport<Schemas['Card']>(() => `/api/v1/devices/${props.device.id}/card`)

const key = computed(() => ({ kind: 'device' as const, id: props.device.id }))
const sub = computed(() => [kindWords(props.device.device_kind), whereWords(props.lab, props.device)].join(' · '))
const stands = computed(() => held.value.get(props.device.id) ?? [])
const standsWord = computed(() => `${capital(standing(props.device))} it`)
const sheet = computed(() => props.lab.spec_sheets.get(props.device.sheet_id ?? ''))
/** A whole unit or more above it is empty: it stands on a board, or its rails are missing. */
const taller = computed(() => {
  const { takes_u: takes, height_mm: high } = props.device
  return takes && high && high <= (takes - 1) * unitMM ? `It takes more than its own height of ${height(high)}.` : undefined
})
const choices = <T extends string>(list: readonly T[], words: (v: T) => string) => list.map((value) => ({ value: words(value).toLowerCase(), title: words(value) }))
const kindChoices = choices(kinds, (k: Schemas['DeviceKind']) => kindWords(k))
const stateChoices = choices(states, (s: Schemas['State']) => s)

const all = ref(false)
const part = ref('')
const picking = ref(false)
const put = ref<{ start: (text: string) => void }>()
/** What stands at the head of the card, or has a place of its own. */
const apart = new Set(['state', 'purpose', 'why', 'notes', 'takes_u', 'sheet_id', 'never_known'])
const inGroup = (...groups: (string | undefined)[]) => (card.value?.facts ?? []).filter((f) => groups.includes(f.group) && !apart.has(f.field))
const measured = ['height_mm', 'width_mm', 'depth_mm', 'weight_kg']
const holdsParts = computed(() => !traitsOf(props.device.device_kind).passive)
const sections = computed(() => [
  { name: 'Ports', facts: inGroup('ports') },
  { name: 'Power and noise', facts: inGroup('power') },
  { name: 'Ways in', facts: inGroup('ways in') },
  { name: 'Money', facts: inGroup('money') },
  { name: 'Make', facts: inGroup(undefined) },
  { name: 'Private', facts: inGroup('private') },
])
/** What the maps of bays and slots show need not be said again. */
const mapped: Record<string, string[]> = { drive: ['bays'], memory: ['memory_slots', 'memory_type', 'memory_slot_bytes', 'memory_most_bytes'], processor: ['sockets', 'socket_type'], card: ['slots'] }
const inside = computed(() => {
  const said = all.value ? [] : (card.value?.seats ?? []).flatMap((m) => mapped[m.part_kind] ?? [])
  return inGroup('inside').filter((f) => !said.includes(f.field))
})
const some = (facts: Schemas['CardFact'][]) => all.value || facts.some((f) => f.text || f.gap || f.from === 'never')

function walk() {
  work.walkFrom = props.device.id
  void router.push('/walk')
}
</script>

<template>
  <div class="device-card">
    <FactRow class="name" :record="key" field="name" label="Name" :text="device.name" gap="name" />
    <p class="sub">{{ sub }}</p>
    <StateMark :state="device.state" />
    <FactRow :record="key" field="purpose" label="What it is for" :text="device.purpose" gap="what is it for" long />
    <FactRow v-if="device.why || all" :record="key" field="why" label="Why it was bought" :text="device.why && `Bought because ${device.why}`" :typed="device.why ?? ''" gap="why was it bought" long />
    <div>
      <FactRow :record="key" field="state" label="State" :text="device.state" :choices="stateChoices" />
      <FactRow :record="key" field="device_kind" label="Kind" :text="kindWords(device.device_kind)" :typed="kindWords(device.device_kind).toLowerCase()" :choices="kindChoices" />
      <FactRow :record="key" field="at" label="Where" :text="whereTyped(lab, device) === '?' ? undefined : whereTyped(lab, device)" gap="not placed" mono />
      <FactRow :record="key" field="takes_u" label="Takes" :text="device.takes_u ? `${device.takes_u}U` : undefined" gap="U" mono :hint="taller" />
      <div class="row sheet-row">
        <span class="term">Spec sheet</span>
        <button @click="picking = true">{{ sheet ? sheet.name : 'pick one' }}</button>
      </div>
    </div>
    <template v-if="card">
      <template v-if="card.summary.length || some(inside)">
        <h2>Inside</h2>
        <dl v-if="card.summary.length" class="summary">
          <template v-for="s in card.summary" :key="s.title"><dt>{{ s.title }}</dt><dd class="figure">{{ s.text }}</dd></template>
        </dl>
        <FactList :record="key" :facts="inside" :all="all" />
      </template>
      <SeatMaps :device="device.id" :maps="card.seats" :loose="card.loose" @part="part = $event" @empty="put?.start($event)" />
      <p v-for="t in card.troubles" :key="t" class="trouble">{{ t }}</p>
      <PartsField v-if="holdsParts && lab.view.kind !== 'past'" ref="put" :device="device.id" />
      <h2>Measures</h2>
      <FactList :record="key" :facts="inGroup('measures')" :all="all" :fixed="measured" />
      <FitLines v-if="card.fit.length" :checks="card.fit" />
      <template v-for="s in sections" :key="s.name">
        <template v-if="some(s.facts)">
          <h2>{{ s.name }}</h2>
          <FactList :record="key" :facts="s.facts" :all="all" />
        </template>
      </template>
    </template>
    <CablesOn :device="device" />
    <template v-if="stands.length">
      <h2>{{ standsWord }}</h2>
      <ul class="things">
        <li v-for="d in stands" :key="d.id"><button @click="work.pick(d.id)"><b>{{ title(d) }}</b><span class="soft">{{ kindWords(d.device_kind) }}</span></button></li>
      </ul>
    </template>
    <PhotoStrip :device="device.id" :fixed="lab.view.kind === 'past'" />
    <h2>Notes</h2>
    <NotesField :record="key" :text="device.notes" />
    <HistoryList :record="key" />
    <div class="buttons">
      <v-btn v-if="card?.gaps.length" @click="walk">{{ card.gaps.length }} gap{{ card.gaps.length === 1 ? '' : 's' }} ›</v-btn>
      <v-btn @click="all = !all">{{ all ? 'Fewer facts' : 'All facts' }}</v-btn>
      <v-btn @click="removePicked">Remove</v-btn>
    </div>
    <PartDialog v-if="part" :id="part" @close="part = ''" />
    <SheetDialog v-if="picking" :device="device" @close="picking = false" />
  </div>
</template>

<style scoped>
.device-card {
  display: flow-root;
}
.device-card > .long :deep(.term) {
  display: none;
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
.trouble {
  margin-top: 6px;
  padding-left: 8px;
  border-left: 3px solid var(--red);
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
