<script setup lang="ts">
// The datasets that are lost with something, and how old what is left of them is.
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '../api/address'
import type { Key } from '../api/client'
import { useReport } from '../lab/useReport'

const props = defineProps<{ record: Key }>()
const router = useRouter()
const { data } = useReport(() => api('/api/v1/reports/data_lost', { with: `${props.record.kind}:${props.record.id}` }))
const lost = computed(() => data.value?.lost ?? [])
</script>

<template>
  <template v-if="lost.length">
    <h2>Data that goes with it <button class="to" @click="router.push('/storage/copies')">copies ›</button></h2>
    <ul>
      <li v-for="l in lost" :key="l.id">
        <b>{{ l.name }}</b><span :class="{ bad: l.all && l.worth !== 'toy' }">{{ l.all ? 'all of it' : `what came in ${l.words}` }}</span>
      </li>
    </ul>
  </template>
</template>

<style scoped>
ul {
  list-style: none;
}
li {
  display: flex;
  gap: 8px;
  justify-content: space-between;
  padding: 3px 0;
  border-bottom: 1px solid var(--rule);
}
</style>
