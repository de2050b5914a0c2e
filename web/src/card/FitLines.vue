<script setup lang="ts">
// What the checks of fit came to: what does not fit and what could not be
// check, each with its reason; what fits in a word.
import { computed } from 'vue'
import type { Schemas } from '../api/client'

const props = defineProps<{ checks: Schemas['Check'][] }>()
const bad = computed(() => props.checks.filter((c) => c.outcome === 'no'))
const open = computed(() => props.checks.filter((c) => c.outcome === 'unchecked'))
const good = computed(() => props.checks.filter((c) => c.outcome === 'fits'))
const mm = (v: number) => `${Math.round(v * 10) / 10} mm`
</script>

<template>
  <ul class="fit">
    <li v-for="c in bad" :key="c.about" class="no">
      <b>Does not fit.</b> {{ c.say }}<span v-if="c.spare_mm !== undefined">&nbsp;{{ mm(-c.spare_mm) }} too much.</span>
    </li>
    <li v-for="c in open" :key="c.about" class="soft"><b>Not checked.</b> {{ c.say }}</li>
    <li v-if="good.length" class="yes">
      <b>Fits:</b> {{ good.map((c) => (c.spare_mm === undefined ? c.about : `${c.about}, ${mm(c.spare_mm)} to spare`)).join('; ') }}
    </li>
  </ul>
</template>

<style scoped>
.fit {
  margin-top: 6px;
  list-style: none;
  font-size: 13px;
}
.fit li {
  padding: 2px 0 2px 10px;
  border-left: 3px solid var(--soft);
  margin-bottom: 3px;
}
.fit .no {
  border-color: var(--red);
}
.fit .yes {
  border-color: var(--moss);
}
</style>
