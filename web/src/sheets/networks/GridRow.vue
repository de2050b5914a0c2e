<script setup lang="ts">
// One port of the grid: where it leads, and a cell for each VLAN; below it the
// other end of its link, where that says something else.
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { carriedOf, markOf, type Carried } from './paint'

const props = defineProps<{
  port: Schemas['GridPort']
  vlans: Schemas['GridVLAN'][]
  carried: Carried
  row: number
  /** The cell that has the focus, or -1. */
  focus: number
  /** Those that are picked, or from is -1. */
  from: number
  to: number
  device: string
}>()
const emit = defineEmits<{ pick: [id: string] }>()
const marks = computed(() => props.vlans.map((v) => markOf(props.carried, v.number)))
const far = computed(() => (props.port.to?.differs ? carriedOf(props.port.to) : undefined))
const farMarks = computed(() => props.vlans.map((v) => (far.value ? markOf(far.value, v.number) : '')))
const says = { U: 'untagged', T: 'tagged', '': 'not carried' }
const way = computed(() => (props.port.to?.via?.length ? `through ${props.port.to.via.join(', ')}` : ''))
</script>

<template>
  <tr :class="{ uplink: port.uplink }">
    <th class="port" scope="row">
      <i v-if="port.uplink" class="up" title="It leads to another device that passes frames on">▲</i>
      <span class="figure">{{ port.port }}</span>
      <small v-if="port.name || port.aggregate" class="soft">{{ port.name || port.aggregate }}</small>
    </th>
    <td class="to">
      <button v-if="port.to" :title="way" @click="emit('pick', port.to.device_id)">{{ port.to.title }}</button>
      <small v-if="port.routed" class="soft">routed</small>
    </td>
    <td
      v-for="(m, i) in marks"
      :key="vlans[i]!.number"
      class="cell"
      :class="[m, { from: from >= 0 && i >= from && i <= to }]"
      role="gridcell"
      :data-cell="`${row} ${i}`"
      :tabindex="focus === i ? 0 : -1"
      :aria-selected="from >= 0 && i >= from && i <= to"
      :aria-label="`${device}/${port.port}, VLAN ${vlans[i]!.number}: ${says[m]}`"
      :style="m ? { '--vlan': vlans[i]!.hex } : undefined">
      <span v-if="m">{{ m }}</span>
    </td>
    <td class="rest" />
  </tr>
  <tr v-if="far && port.to" class="far">
    <td />
    <td class="to"><b>≠</b> {{ port.to.title }} says</td>
    <td
      v-for="(m, i) in farMarks"
      :key="i"
      class="cell"
      :class="[m, { odd: m !== marks[i] }]"
      :style="m ? { '--vlan': vlans[i]!.hex } : undefined">
      <span v-if="m">{{ m }}</span>
    </td>
    <td class="rest" />
  </tr>
</template>

<style scoped>
th,
td {
  height: 25px;
  padding: 0 8px;
  border-bottom: 1px solid var(--hair);
  white-space: nowrap;
}
.port {
  position: sticky;
  left: 0;
  min-width: 74px;
  text-align: left;
  font-weight: 400;
  background: var(--sheet);
}
.up {
  margin-right: 4px;
  font: normal 10px var(--figures);
  color: var(--water);
}
.port small {
  margin-left: 5px;
}
.to {
  min-width: 120px;
  font: 500 13px var(--names);
}
.to button:hover {
  color: var(--red);
}
.to small {
  margin-left: 6px;
}
.uplink th,
.uplink td {
  border-top: 1px solid var(--rule);
}
.cell {
  padding: 0;
  text-align: center;
  border-left: 1px solid var(--hair);
  cursor: pointer;
  user-select: none;
}
.cell span {
  display: inline-block;
  width: 20px;
  font: 500 12px/17px var(--figures);
  color: var(--ink);
  background: var(--sheet);
  border: 2px dashed var(--vlan);
  border-radius: 2px;
}
.cell.U span {
  border-style: solid;
  background: color-mix(in srgb, var(--vlan) 30%, var(--sheet));
}
.cell.from {
  background: var(--strip);
}
.cell:focus-visible {
  outline: 2px solid var(--water);
  outline-offset: -2px;
}
.far td {
  height: 22px;
  background: color-mix(in srgb, var(--red) 6%, var(--sheet));
}
.far .to {
  border-left: 3px solid var(--red);
}
.far .cell {
  cursor: default;
}
.far .odd span {
  outline: 2px solid var(--red);
}
.far .odd:not(.U, .T)::after {
  content: '–';
  color: var(--red);
}
@media (max-width: 700px) {
  th,
  td {
    height: 44px;
  }
}
</style>
