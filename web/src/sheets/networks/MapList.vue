<script setup lang="ts">
// The map as a list: every device with its links, in strata.
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { strata } from '../../draw/network/graph'
import { speedWords } from '../../lab/trails'
import '../cabling/lists.css'

const props = defineProps<{ map: Schemas['NetworkMap']; lit: number }>()
const emit = defineEmits<{ pick: [id: string] }>()
const titles = computed(() => new Map(props.map.nodes.map((n) => [n.id, n.title])))
const names = { outside: 'Outside', edge: 'Edge', core: 'Core', access: 'Access', things: 'Things' }

interface Row {
  node: Schemas['MapNode']
  links: { to: string; id: string; own: string; says: string }[]
}
const groups = computed(() =>
  strata
    .map((s) => ({
      name: names[s],
      rows: props.map.nodes
        .filter((n) => n.stratum === s && (props.lit < 0 || linksOf(n.id).length))
        .map((node): Row => ({ node, links: linksOf(node.id) })),
    }))
    .filter((g) => g.rows.length),
)
function linksOf(id: string) {
  return props.map.links
    .filter((l) => (l.a_device_id === id || l.b_device_id === id) && (props.lit < 0 || l.strands.some((s) => s.vlan === props.lit)))
    .map((l) => {
      const near = l.a_device_id === id
      const [far, port, own] = near ? [l.b_device_id, l.b_port, l.a_port] : [l.a_device_id, l.a_port, l.b_port]
      const vlans = l.strands.map((s) => `${props.map.vlans[s.vlan]?.number}${s.tagged ? ' tagged' : ''}`).join(', ')
      return {
        id: far,
        own,
        to: `${titles.value.get(far)}/${port}`,
        says: [
          l.speed_mb ? speedWords(l.speed_mb) : 'speed unknown',
          vlans && `VLAN ${vlans}`,
          l.aggregate && `aggregate ${l.aggregate}`,
          l.rests && 'rests',
          l.standby && 'stands by',
          l.unsure && 'may rest',
          l.down && 'carries nothing',
          l.via?.length && `through ${l.via.join(', ')}`,
        ]
          .filter(Boolean)
          .join('; '),
      }
    })
}
</script>

<template>
  <div class="list-room" data-scroll>
    <template v-for="g in groups" :key="g.name">
      <h2>{{ g.name }}</h2>
      <table :aria-label="g.name">
        <tbody>
          <template v-for="r in g.rows" :key="r.node.id">
            <tr v-for="(l, i) in r.links" :key="`${l.own} ${l.to}`">
              <th v-if="!i" scope="rowgroup" :rowspan="r.links.length">
                <button @click="emit('pick', r.node.id)">{{ r.node.title }}</button> <span class="soft">{{ r.node.kind }}</span>
              </th>
              <td class="figure">{{ l.own }}</td>
              <td>
                <button @click="emit('pick', l.id)">{{ l.to }}</button>
              </td>
              <td>{{ l.says }}</td>
            </tr>
          </template>
        </tbody>
      </table>
    </template>
  </div>
</template>

<style scoped>
.list-room th {
  vertical-align: baseline;
  border-bottom-color: var(--rule);
}
th button {
  font: 600 14px var(--names);
  color: var(--ink);
}
</style>
