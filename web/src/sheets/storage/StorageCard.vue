<script setup lang="ts">
// The card of the pool, dataset, share or copy that is picked, or what is to be done about
// storage as a whole.
import { computed } from 'vue'
import type { Key } from '../../api/client'
import GoesWith from '../../card/GoesWith.vue'
import IfGone from '../../card/IfGone.vue'
import PoolFacts from '../../card/PoolFacts.vue'
import SheetCard from '../../card/SheetCard.vue'
import { sizeWords, useStorage } from '../../work/useStorage'

const { stored, byId } = useStorage()
const sum = computed(() => stored.value?.sum)
const poolOf = (key: Key) => (key.kind === 'pool' ? byId.value.get(key.id) : undefined)
</script>

<template>
  <SheetCard v-if="stored && sum" sheet="/storage" name="Storage" :concerns="(f) => f.storage" :some="!!stored.pools.length">
    <template #sum>
      {{ stored.pools.length }} {{ stored.pools.length === 1 ? 'pool' : 'pools' }}, {{ sizeWords(sum.used_bytes) }} of
      {{ sum.at_least ? 'at least ' : '' }}{{ sizeWords(sum.usable_bytes) }}
    </template>
    <template #head="{ record }"><PoolFacts v-if="poolOf(record)" :pool="poolOf(record)!" /></template>
    <template #default="{ record }">
      <GoesWith v-if="poolOf(record)" :record="record" />
      <IfGone v-if="record.kind !== 'copy'" :record="record" />
    </template>
  </SheetCard>
</template>
