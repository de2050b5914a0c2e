<script setup lang="ts">
// What is known of a cable, seen from one of its ends, edited where it stands.
// Its way is one choice of all there are, over the faces, by a side of the rack
// or in a run; all else is as the server has it.
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import FactList from '../../card/FactList.vue'
import FactRow from '../../card/FactRow.vue'
import { groupOf, useCard } from '../../card/useCard'
import { useLab } from '../../lab/useLab'
import { sameEnd, type Cable, type End } from '../../work/useCabling'
import { ways } from './choices'

const props = defineProps<{ cable: Cable; at: End; lead?: Schemas['Lead']; still?: boolean }>()
const { lab, send, add } = useLab()
const key = computed(() => ({ kind: 'cable' as const, id: props.cable.id }))
const { data } = useCard(() => key.value)
const other = computed(() => (sameEnd(props.cable.a, props.at) ? 'b' : 'a'))
const apart = new Set(['a', 'b', 'way', 'run_id'])
const facts = computed(() => groupOf(data.value, '').filter((f) => !apart.has(f.field) && (f.text || !f.maybe || f.field === 'label')))
const stock = computed(() => {
  const s = props.lead?.should
  if (!s) return undefined
  return s.from === 'run'
    ? `The run is ${s.need_m} m.`
    : `It needs ${Math.round(s.need_m * 100) / 100} m${s.stock_m ? `: take ${s.stock_m} m` : ''}.`
})
const wayChoices = computed(() => [
  ...ways.map(({ is, title }) => ({ value: `way ${is}`, title })),
  ...[...(lab.value?.runs.values() ?? [])].map((r) => ({ value: `run ${r.id}`, title: `in ${r.name}` })),
])
const wayNow = computed(() =>
  wayChoices.value.find((w) => w.value === (props.cable.run_id ? `run ${props.cable.run_id}` : `way ${props.cable.way}`)),
)
async function goBy(choice: string, base: number) {
  const [by, is] = choice.split(' ')
  await send('/api/v1/changes', {
    base_revision: base,
    changes: [add({ kind: 'cable', ...props.cable, way: by === 'way' ? is : undefined, run_id: by === 'run' ? is : undefined })],
  })
}
</script>

<template>
  <FactList :record="key" :facts="facts" :still="still" />
  <FactRow
    :record="key"
    field="way"
    label="Way"
    :text="wayNow?.title"
    :typed="wayNow?.value"
    gap="which way"
    :choices="wayChoices"
    :keeps="goBy"
    :still="still" />
  <FactRow :record="key" :field="other" label="Other end" :text="lead?.[other]" :typed="lead?.[other]" gap="open" mono :still="still" />
  <p v-if="stock" :class="lead?.short ? 'short' : 'soft'">{{ stock }}</p>
</template>

<style scoped>
p {
  margin-top: 6px;
  font-size: 13px;
}
.short {
  color: var(--red);
}
</style>
