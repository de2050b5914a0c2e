<script setup lang="ts">
// What stands at the right while no device is picked: the card of the pool, dataset, share
// or copy that is, or what is to be done about storage as a whole.
import { computed } from 'vue'
import CardFrame from '../../card/CardFrame.vue'
import GoesWith from '../../card/GoesWith.vue'
import PoolFacts from '../../card/PoolFacts.vue'
import PutRight from '../../card/PutRight.vue'
import RecordCard from '../../card/RecordCard.vue'
import { useCard } from '../../card/useCard'
import { isOpen, useFindings } from '../../lab/useFindings'
import { attempt, useLab } from '../../lab/useLab'
import { sizeWords, useStorage } from '../../work/useStorage'
import { useWork } from '../../work/work'

const work = useWork()
const { lab, send } = useLab()
const { stored, byId, picked } = useStorage()
const { findings } = useFindings()
const key = computed(() => picked.value)
const { data: card } = useCard(() => key.value ?? { kind: 'pool', id: '' })
const row = computed(() => byId.value.get(key.value?.kind === 'pool' ? key.value.id : ''))
const about = computed(() => findings.value.filter((f) => isOpen(f) && f.storage && f.records.some((r) => r.id === key.value?.id)))
const here = computed(() => findings.value.filter((f) => f.storage && isOpen(f)))
const still = computed(() => lab.value?.view.kind === 'past')
const sum = computed(() => stored.value?.sum)
async function remove() {
  const gone = key.value
  if (gone && (await attempt(() => send('/api/v1/changes', { changes: [{ remove: gone }] })))) picked.value = undefined
}
</script>

<template>
  <CardFrame v-if="key && card" :open="work.cardOpen" @close="work.cardOpen = false">
    <RecordCard :record="key" :card="card" :still="still">
      <template #head><PoolFacts v-if="row" :pool="row" /></template>
      <PutRight v-if="about.length" :findings="about" />
      <GoesWith v-if="row" :record="key" />
      <template #buttons><v-btn @click="picked = undefined">All storage</v-btn></template>
      <template #remove><v-btn v-if="!still" @click="remove">Remove</v-btn></template>
    </RecordCard>
  </CardFrame>
  <CardFrame v-else-if="stored && sum" :open="work.cardOpen" @close="work.cardOpen = false">
    <p class="title">Storage</p>
    <p class="sub">
      {{ stored.pools.length }} {{ stored.pools.length === 1 ? 'pool' : 'pools' }}, {{ sizeWords(sum.used_bytes) }} of
      {{ sum.at_least ? 'at least ' : '' }}{{ sizeWords(sum.usable_bytes) }}
    </p>
    <PutRight v-if="here.length" :findings="here" />
    <p v-else-if="stored.pools.length">The checks noticed nothing about it.</p>
  </CardFrame>
</template>

<style scoped>
.title {
  font: 600 20px/1.2 var(--names);
}
</style>
