<script setup lang="ts">
// The pools that a device runs, or whose drives are in it.
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import GoesWith from './GoesWith.vue'
import { sizeWords, useStorage, type PoolRow } from '../work/useStorage'

const props = defineProps<{ device: string }>()
const router = useRouter()
const { stored } = useStorage()
const here = computed(() => (stored.value?.pools ?? []).filter((p) => p.on_device_ids.includes(props.device)))
const used = (p: PoolRow) => (p.used_bytes === undefined ? '?' : `${p.used_at_least ? '≥ ' : ''}${sizeWords(p.used_bytes)}`)
const full = (p: PoolRow) => `${used(p)} of ${p.at_least ? '≥ ' : ''}${sizeWords(p.usable_bytes)}`
function show(id: string) {
  void router.push({ path: '/storage', query: { pool: id } })
}
</script>

<template>
  <template v-if="here.length">
    <h2>Pools <button class="to" @click="router.push('/storage')">storage ›</button></h2>
    <ul>
      <li v-for="p in here" :key="p.id">
        <button @click="show(p.id)">
          <b>{{ p.name }}</b><span class="figure">{{ full(p) }}</span>
          <small>{{ p.words }}; {{ p.may_fail_words }}</small>
        </button>
      </li>
    </ul>
    <GoesWith :record="{ kind: 'device', id: device }" />
  </template>
</template>

<style scoped>
ul {
  list-style: none;
}
li {
  border-bottom: 1px solid var(--rule);
}
li button {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 0 8px;
  width: 100%;
  padding: 4px 0;
  text-align: left;
}
small {
  grid-column: 1 / -1;
  font-size: 13px;
  color: var(--soft);
}
li button:hover b {
  color: var(--red);
}
</style>
