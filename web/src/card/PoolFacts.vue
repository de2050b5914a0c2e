<script setup lang="ts">
// What a pool comes to: room, what may fail, when it is full, how long a rebuild takes.
import { computed } from 'vue'
import { bothWords, monthWords, sizeWords, type PoolRow } from '../work/useStorage'

const props = defineProps<{ pool: PoolRow }>()
const used = computed(() => {
  const p = props.pool
  if (p.used_bytes === undefined) return ''
  const free =
    p.free_bytes === undefined
      ? ''
      : p.free_bytes < 0
        ? `, ${sizeWords(-p.free_bytes)} more than there is room for`
        : `, ${sizeWords(p.free_bytes)} free`
  return `${p.used_at_least ? 'at least ' : ''}${sizeWords(p.used_bytes)}${free}`
})
const full = computed(() => {
  const p = props.pool
  if (p.months_to_80_percent === undefined) return ''
  const near =
    p.months_to_80_percent <= 0
      ? 'past 80 % now'
      : p.past_80_percent
        ? `past 80 % in ${monthWords(p.past_80_percent)}`
        : 'past 80 % not in a hundred years'
  if (p.months_to_full === undefined) return near
  return `${p.months_to_full <= 0 ? 'full now' : p.full ? monthWords(p.full) : 'not in a hundred years'}; ${near}`
})
const hours = (h: number) => (h < 48 ? `${Math.round(h * 10) / 10} h` : `${Math.round(h / 24)} days`)
</script>

<template>
  <dl class="sums">
    <dt>Made of</dt>
    <dd>{{ pool.words }}</dd>
    <dt>Usable</dt>
    <dd>
      <span v-if="pool.usable_bytes !== undefined" class="figure">{{ pool.at_least ? '≥ ' : '' }}{{ bothWords(pool.usable_bytes) }}</span>
      <i v-else class="unknown">?</i>
      <small v-if="pool.kept_back_bytes">of which {{ sizeWords(pool.kept_back_bytes) }} kept back by the file system</small>
      <small
        >{{ sizeWords(pool.raw_bytes) }} raw, {{ sizeWords(pool.redundancy_bytes) }} redundancy<template v-if="pool.unused_bytes"
          >, {{ sizeWords(pool.unused_bytes) }} unused</template
        ></small
      >
    </dd>
    <template v-if="used">
      <dt>Used</dt>
      <dd>
        <span class="figure" :class="{ bad: (pool.free_bytes ?? 0) < 0 }">{{ used }}</span>
        <small v-if="pool.used_on">as of {{ pool.used_on }}</small>
      </dd>
    </template>
    <template v-if="full">
      <dt>Full</dt>
      <dd>{{ full }}</dd>
    </template>
    <dt>May fail</dt>
    <dd :class="{ bad: pool.may_fail.best === 0 || pool.lost }">{{ pool.may_fail_words }}</dd>
    <template v-if="pool.rebuild_h !== undefined">
      <dt>Rebuild</dt>
      <dd>at best {{ hours(pool.rebuild_h) }}, reads {{ sizeWords(pool.rebuild_reads_bytes) }}</dd>
    </template>
  </dl>
</template>
