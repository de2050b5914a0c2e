<script setup lang="ts">
// What is known of a device: what it is for, its facts with their units, what
// stands on it.
import { computed } from 'vue'
import type { Device, Schemas } from '../api/client'
import { unitMM } from '../draw/scale'
import { useLab, type LabState } from '../lab/useLab'
import { height, kg, kindWords, mm, title, whereTyped, whereWords } from '../lab/words'
import { useActions } from '../work/useActions'
import { useWork } from '../work/work'
import FactRow from './FactRow.vue'
import StateMark from './StateMark.vue'
import { kinds, states } from './choices'

const props = defineProps<{ lab: LabState; device: Device }>()
const work = useWork()
const { held } = useLab()
const { removePicked } = useActions()

const key = computed(() => ({ kind: 'device' as const, id: props.device.id }))
const sub = computed(() => [kindWords(props.device.device_kind), whereWords(props.lab, props.device)].join(' · '))
const stands = computed(() => held.value.get(props.device.id) ?? [])
const standsWord = computed(() => (props.device.device_kind === 'drawer' ? 'In it' : 'On it'))
/** A whole unit or more above it is empty: it stands on a board, or its rails are missing. */
const taller = computed(() => {
  const { takes_u: takes, height_mm: high } = props.device
  return takes && high && high <= (takes - 1) * unitMM ? `It takes more than its own height of ${height(high)}.` : undefined
})
const choices = <T extends string>(list: T[], words: (v: T) => string) => list.map((value) => ({ value: words(value).toLowerCase(), title: words(value) }))
const kindChoices = choices(kinds, (k: Schemas['DeviceKind']) => kindWords(k))
const stateChoices = choices(states, (s: Schemas['State']) => s)
</script>

<template>
  <div class="device-card">
    <FactRow class="name" :record="key" field="name" label="Name" :text="device.name" gap="name" />
    <p class="sub">{{ sub }}</p>
    <StateMark :state="device.state" />
    <FactRow :record="key" field="purpose" label="What it is for" :text="device.purpose" gap="what is it for" long />
    <div>
      <FactRow :record="key" field="state" label="State" :text="device.state" :choices="stateChoices" />
      <FactRow :record="key" field="device_kind" label="Kind" :text="kindWords(device.device_kind)" :typed="kindWords(device.device_kind).toLowerCase()" :choices="kindChoices" />
      <FactRow :record="key" field="at" label="Where" :text="whereTyped(lab, device) === '?' ? undefined : whereTyped(lab, device)" gap="not placed" mono />
      <FactRow :record="key" field="takes_u" label="Takes" :text="device.takes_u ? `${device.takes_u}U` : undefined" gap="U" mono :hint="taller" />
    </div>
    <h2>Measures</h2>
    <div>
      <FactRow :record="key" field="height_mm" label="Height" :text="device.height_mm ? height(device.height_mm) : undefined" gap="mm" mono />
      <FactRow :record="key" field="width_mm" label="Width" :text="device.width_mm ? mm(device.width_mm) : undefined" gap="mm" mono />
      <FactRow :record="key" field="depth_mm" label="Depth" :text="device.depth_mm ? mm(device.depth_mm) : undefined" gap="mm" mono />
      <FactRow :record="key" field="weight_kg" label="Weight" :text="device.weight_kg ? kg(device.weight_kg) : undefined" gap="kg" mono />
    </div>
    <template v-if="stands.length">
      <h2>{{ standsWord }}</h2>
      <ul class="things">
        <li v-for="d in stands" :key="d.id"><button @click="work.pick(d.id)"><b>{{ title(d) }}</b><span class="soft">{{ kindWords(d.device_kind) }}</span></button></li>
      </ul>
    </template>
    <h2>Notes</h2>
    <FactRow :record="key" field="notes" label="Notes" :text="device.notes" gap="none yet" long class="notes" />
    <div class="buttons">
      <v-btn @click="removePicked">Remove</v-btn>
    </div>
  </div>
</template>

<style scoped>
.device-card {
  display: flow-root;
}
.notes :deep(.term),
.device-card > .long :deep(.term) {
  display: none;
}
</style>
