<script setup lang="ts">
// Every subnet behind what it is within, with how full it is; what several have in
// common stands above them.
import type { Schemas } from '../../api/client'

defineProps<{ branches: Schemas['SubnetBranch'][]; picked: string }>()
defineEmits<{ pick: [id: string] }>()

/** What is had and what is handed out, of the whole. */
function parts(s: Schemas['SubnetUse']): [number, number] {
  if (!s.size) return [s.used ? 0.04 : 0, 0]
  return [s.used / s.size, (s.handed_out ?? 0) / s.size]
}
const left = (s: Schemas['SubnetUse']) => (s.free === null ? 'very many left' : `${s.free} left`)
</script>

<template>
  <ul class="subnets" aria-label="Subnets">
    <li v-for="b in branches" :key="b.prefix + (b.subnet?.id ?? '')" :style="{ paddingLeft: `${b.depth * 10}px` }">
      <button
        v-if="b.subnet"
        :aria-pressed="b.subnet.id === picked"
        :aria-label="`${b.prefix} ${b.subnet.name ?? ''}, ${left(b.subnet)}`"
        @click="$emit('pick', b.subnet.id)">
        <span class="figure">{{ b.prefix }}</span>
        <span class="name">{{ b.subnet.name }}</span>
        <svg width="100%" height="5" aria-hidden="true" preserveAspectRatio="none" viewBox="0 0 100 5">
          <rect width="100" height="5" class="glass" />
          <rect :width="parts(b.subnet)[0] * 100" height="5" class="had" />
          <rect :x="parts(b.subnet)[0] * 100" :width="parts(b.subnet)[1] * 100" height="5" class="handed" />
        </svg>
      </button>
      <span v-else class="figure common">{{ b.prefix }}</span>
    </li>
  </ul>
</template>

<style scoped>
.subnets {
  list-style: none;
  overflow-y: auto;
}
button {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 1px 8px;
  align-items: baseline;
  width: 100%;
  padding: 4px 8px 5px;
  text-align: left;
  border-left: 3px solid transparent;
}
button[aria-pressed='true'] {
  background: var(--strip);
  border-left-color: var(--red);
}
button:hover .figure {
  color: var(--red);
}
.name {
  overflow: hidden;
  font: 500 13px var(--names);
  text-align: right;
  text-overflow: ellipsis;
  white-space: nowrap;
}
svg {
  grid-column: 1 / -1;
}
.glass {
  fill: var(--rule);
}
.had {
  fill: var(--water);
}
.handed {
  fill: var(--pale);
}
.common {
  display: block;
  padding: 4px 8px 0 11px;
  color: var(--soft);
}
@media (max-width: 700px) {
  main.sheet .subnets li > button {
    display: grid;
    min-height: 44px;
  }
}
</style>
