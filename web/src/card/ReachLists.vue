<script setup lang="ts">
// What a device reaches and who reaches it, as it is said of the device or of its
// network, and where that cannot be.
import { computed } from 'vue'
import type { Schemas } from '../api/client'

const props = defineProps<{ of: Schemas['DeviceAddresses'] }>()
const word: Record<string, string> = { all: 'everything', some: 'in part', none: 'nothing' }
const amount = (c: Schemas['ReachCell']) =>
  [
    c.said === 'some' && c.what ? c.what : word[c.said],
    c.down_mb && `at most ${c.down_mb} Mb/s down`,
    c.only_line && `by ${c.only_line} only`,
  ]
    .filter(Boolean)
    .join(', ')
const lists = computed(() =>
  [
    { title: 'Reaches', cells: props.of.reaches, other: (c: Schemas['ReachCell']) => c.to, by: (c: Schemas['ReachCell']) => c.from },
    { title: 'Reached by', cells: props.of.reached_by, other: (c: Schemas['ReachCell']) => c.from, by: (c: Schemas['ReachCell']) => c.to },
  ].filter((l) => l.cells.length),
)
</script>

<template>
  <template v-for="l in lists" :key="l.title">
    <h2>{{ l.title }}</h2>
    <ul class="reaches">
      <li v-for="c in l.cells" :key="c.rule_id ?? ''">
        <b>{{ l.other(c) }}</b>: {{ amount(c) }} <span class="soft">{{ ` as a rule for ${l.by(c)}` }}</span>
        <em v-if="!c.can">cannot be: {{ c.why }}</em>
      </li>
    </ul>
  </template>
</template>

<style scoped>
h2 {
  margin-top: 14px;
}
.reaches {
  list-style: none;
}
li {
  padding: 3px 0;
  border-bottom: 1px solid var(--rule);
}
b {
  font: 600 14px var(--names);
}
.soft {
  font-size: 13px;
}
em {
  display: block;
  font-style: normal;
  color: var(--red);
}
</style>
