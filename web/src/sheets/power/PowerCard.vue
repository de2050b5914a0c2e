<script setup lang="ts">
// What stands at the right while no device is picked: the card of the circuit that is, or
// what is to be done about power as a whole.
import { computed } from 'vue'
import CardFrame from '../../card/CardFrame.vue'
import IfGone from '../../card/IfGone.vue'
import PowerFacts from '../../card/PowerFacts.vue'
import PutRight from '../../card/PutRight.vue'
import RecordCard from '../../card/RecordCard.vue'
import { useCard } from '../../card/useCard'
import { isOpen, useFindings } from '../../lab/useFindings'
import { useLab } from '../../lab/useLab'
import { usePower, wattsWords } from '../../work/usePower'
import { useWork } from '../../work/work'

const work = useWork()
const { lab } = useLab()
const { power, byId, circuit } = usePower()
const { findings } = useFindings()
const here = computed(() => findings.value.filter((f) => f.power && isOpen(f)))
const key = computed(() => ({ kind: 'circuit' as const, id: circuit.value }))
const { data: card } = useCard(() => key.value)
const node = computed(() => byId.value.get(circuit.value))
const things = computed(() => (power.value?.nodes ?? []).filter((n) => n.kind === 'device' && n.fed_by.length).length)
</script>

<template>
  <CardFrame v-if="node && lab?.circuits.has(circuit)" :open="work.cardOpen" @close="work.cardOpen = false">
    <RecordCard v-if="card" :record="key" :card="card" :still="lab.view.kind === 'past'">
      <PowerFacts :node="node" />
      <IfGone :record="key" />
    </RecordCard>
  </CardFrame>
  <CardFrame v-else-if="power" :open="work.cardOpen" @close="work.cardOpen = false">
    <p class="title">Power</p>
    <p class="sub">{{ things }} things fed, {{ wattsWords(power.lab.typical, power.lab.unknown) }} W</p>
    <PutRight v-if="here.length" :findings="here" />
    <p v-else-if="power.feeds.length">The checks noticed nothing about it.</p>
  </CardFrame>
</template>

<style scoped>
.title {
  font: 600 20px/1.2 var(--names);
}
</style>
