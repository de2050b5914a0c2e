<script setup lang="ts">
// What feeds what as a list, for where there is no room to draw it: each thing below what
// feeds it.
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { wattsOf, wattsWords, type Level, type PowerNode } from '../../work/usePower'

const props = defineProps<{ power: Schemas['Feeds']; level: Level }>()
const emit = defineEmits<{ pick: [node: PowerNode] }>()

interface Row {
  node: PowerNode
  deep: number
  /** Where it is plugged in. */
  at: string
  key: string
}
const rows = computed(() => {
  const byId = new Map(props.power.nodes.map((n) => [n.id, n]))
  const list: Row[] = []
  const down = (node: PowerNode, deep: number, at: string, way: string[]) => {
    list.push({ node, deep, at, key: [...way, node.id, at].join(' ') })
    for (const f of props.power.feeds.filter((x) => x.from_id === node.id)) {
      const to = byId.get(f.to_id)
      if (to && !way.includes(to.id)) down(to, deep + 1, f.out ?? '', [...way, node.id])
    }
  }
  const feeds = new Set(props.power.feeds.map((f) => f.from_id))
  for (const n of props.power.nodes) if (!n.fed_by.length && feeds.has(n.id)) down(n, 0, '', [])
  return list
})
const full = (n: PowerNode) => n.full[props.level]
const loose = (n: PowerNode) => n.supplies.filter((s) => !s.fed).map((s) => s.port)
</script>

<template>
  <ul>
    <li v-for="r in rows" :key="r.key" :style="{ paddingLeft: `${r.deep * 16}px` }">
      <button class="row" :class="{ feeder: r.node.kind !== 'device' }" @click="emit('pick', r.node)">
        <small class="figure">{{ r.at }}</small>
        <b>{{ r.node.name }}</b>
        <span class="figure">{{ wattsOf(r.node, level) }}{{ r.node.limit_w ? ` of ${wattsWords(r.node.limit_w)}` : '' }} W</span>
        <i v-if="full(r.node) !== undefined" class="vial"
          ><i :style="{ width: `${Math.min(100, (full(r.node) ?? 0) * 100)}%` }" :class="{ over: (full(r.node) ?? 0) > 1 }"
        /></i>
        <em v-if="r.node.supplies.length > 1 && loose(r.node).length">{{ loose(r.node).join(', ') }} plugged in nowhere</em>
      </button>
    </li>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  background: var(--sheet);
  border: 1px solid var(--rule);
}
.row {
  display: grid;
  grid-template-columns: 46px 1fr auto;
  gap: 0 8px;
  align-items: center;
  width: 100%;
  min-height: 44px;
  padding: 4px 10px;
  text-align: left;
  border-bottom: 1px solid var(--rule);
}
small {
  color: var(--soft);
}
b {
  font: 500 15px var(--names);
}
.feeder b {
  font-weight: 700;
}
.vial {
  grid-column: 2 / -1;
  height: 6px;
  background: var(--strip);
  border-radius: 3px;
  overflow: hidden;
}
.vial i {
  display: block;
  height: 100%;
  background: var(--brass);
}
.vial .over {
  background: var(--red);
}
em {
  grid-column: 2 / -1;
  font-style: normal;
  font-size: 13px;
  color: var(--red);
}
</style>
