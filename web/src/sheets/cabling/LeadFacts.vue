<script setup lang="ts">
// What is known of a cable, seen from one of its ends, edited where it stands.
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import FactRow from '../../card/FactRow.vue'
import { useLab } from '../../lab/useLab'
import { sameEnd, type Cable, type End } from '../../work/useCabling'
import { cableKinds, kindName, ways } from './choices'

const props = defineProps<{ cable: Cable; at: End; lead?: Schemas['Lead']; colours: string[] }>()
const { lab, send, add } = useLab()
const key = computed(() => ({ kind: 'cable' as const, id: props.cable.id }))
const other = computed(() => (sameEnd(props.cable.a, props.at) ? 'b' : 'a'))
const stock = computed(() => {
  const s = props.lead?.should
  if (!s) return undefined
  return s.from === 'run' ? `the run is ${s.need_m} m` : `needs ${Math.round(s.need_m * 100) / 100} m${s.stock_m ? `: take ${s.stock_m} m` : ''}`
})
/** Over the faces or by a side of the rack, or in a run through the building. */
const wayChoices = computed(() => [...ways.map(({ is, title }) => ({ value: `way ${is}`, title })), ...[...(lab.value?.runs.values() ?? [])].map((r) => ({ value: `run ${r.id}`, title: `in ${r.name}` }))])
const wayNow = computed(() => wayChoices.value.find((w) => w.value === (props.cable.run_id ? `run ${props.cable.run_id}` : `way ${props.cable.way}`)))
async function goBy(choice: string) {
  const [by, is] = choice.split(' ')
  await send('/api/v1/changes', { changes: [add({ kind: 'cable', ...props.cable, way: by === 'way' ? is : undefined, run_id: by === 'run' ? is : undefined })] })
}
const states = [
  { value: 'in use', title: 'in use' },
  { value: 'faulty', title: 'faulty' },
]
</script>

<template>
  <FactRow :record="key" field="label" label="Label" :text="cable.label" gap="none" mono />
  <FactRow :record="key" field="cable_kind" label="Kind" :text="kindName(cable.cable_kind) || undefined" :typed="cable.cable_kind" gap="which" :choices="cableKinds" />
  <FactRow :record="key" field="colour" label="Colour" :text="cable.colour" gap="which" :choices="cable.colour?.startsWith('#') ? undefined : colours.map((value) => ({ value, title: value }))" />
  <FactRow :record="key" field="length_m" label="Length" :text="cable.length_m === undefined ? undefined : `${cable.length_m} m`" gap="m" mono :hint="lead?.short ? stock : undefined" :aside="lead?.short ? undefined : stock" />
  <FactRow :record="key" field="way" label="Way" :text="wayNow?.title" :typed="wayNow?.value" gap="which way" :choices="wayChoices" :keeps="goBy" />
  <FactRow :record="key" field="state" label="State" :text="cable.state === 'in_use' ? 'in use' : cable.state" :choices="states" />
  <FactRow :record="key" :field="other" label="Other end" :text="lead?.[other]" :typed="lead?.[other]" gap="open" mono />
</template>
