<script setup lang="ts">
// What happened to one record, the latest first.
import { api } from '../api/address'
import type { Key } from '../api/client'
import { useReport } from '../lab/useReport'
import { days } from '../lab/words'

const props = defineProps<{ record: Key }>()
const { data } = useReport(() => api('/api/v1/logbook', { kind: props.record.kind, id: props.record.id, limit: 8 }))
</script>

<template>
  <template v-if="data?.entries.length">
    <h2>History</h2>
    <ul class="history">
      <li v-for="e in data.entries" :key="e.revision">
        <span class="figure soft">{{ days(e.at.slice(0, 10)) }}</span> {{ e.label }}
      </li>
    </ul>
  </template>
</template>

<style scoped>
.history {
  list-style: none;
  font-size: 13px;
}
.history li {
  padding: 3px 0;
  border-bottom: 1px solid var(--rule);
  overflow-wrap: anywhere;
}
.history span {
  margin-right: 6px;
}
</style>
