<script setup lang="ts">
// The VLANs there are; one of them is lit.
import { useNetwork, vlanKey } from '../../work/useNetwork'
import { useWork } from '../../work/work'
import type { Schemas } from '../../api/client'

const work = useWork()
const { vlans, lit, links } = useNetwork()

function light(v: Schemas['GridVLAN']) {
  const key = vlanKey(v)
  lit.value = lit.value === key ? '' : key
  links.value = []
  // Its card takes the place of that of a device.
  if (lit.value) work.deviceId = ''
}
const words = (v: Schemas['GridVLAN']) => (v.pieces === 0 ? 'nowhere' : v.pieces > 1 ? `${v.pieces} pieces` : '')
</script>

<template>
  <div v-if="vlans.length" class="chips" role="group" aria-label="VLANs">
    <button v-for="v in vlans" :key="vlanKey(v)" :aria-pressed="lit === vlanKey(v)" :title="v.purpose" @click="light(v)">
      <svg width="14" height="12" aria-hidden="true"><rect width="14" height="12" :fill="v.hex" /></svg>
      <span class="figure">{{ v.number }}</span>
      <b>{{ v.name ?? 'not declared' }}</b>
      <i v-if="v.switching_domain" class="soft">{{ v.switching_domain }}</i>
      <em v-if="words(v)" :class="{ bad: v.pieces > 1 }">{{ words(v) }}</em>
    </button>
  </div>
</template>

<style scoped>
.chips {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  padding: 0 18px 8px;
}
button {
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 2px 9px;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
}
button[aria-pressed='true'] {
  color: var(--paper);
  background: var(--ink);
  border-color: var(--ink);
}
b {
  font: 600 14px var(--names);
}
i,
em {
  font: normal 400 12px var(--sentences);
}
.bad {
  color: var(--red);
}
button[aria-pressed='true'] :is(i, .bad) {
  color: inherit;
}
@media (max-width: 700px) {
  .chips {
    flex-wrap: nowrap;
    overflow-x: auto;
    padding: 0 10px 6px;
  }
  button {
    flex: none;
    min-height: 44px;
  }
}
</style>
