<script setup lang="ts">
// What goes dark when one thing is lost, the worst first, and two feeds at once; what is
// picked is shown on the drawing.
import { useElementSize } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api } from '../../api/address'
import type { Schemas } from '../../api/client'
import { layOut } from '../../draw/feeds/layout'
import { useReport } from '../../lab/useReport'
import { usePower, type PowerNode } from '../../work/usePower'
import { useWork } from '../../work/work'
import FeedsDrawing from './FeedsDrawing.vue'
import '../../frame/views.css'

const emit = defineEmits<{ says: [text: string] }>()
const work = useWork()
const { power, level, lost } = usePower()
const { data } = useReport(() => api('/api/v1/reports/losses'))
type Loss = Schemas['PowerLoss']
const what = ref<'things' | 'all' | 'pairs'>('things')
const list = computed<Loss[]>(() =>
  what.value === 'pairs' ? (data.value?.pairs ?? []) : (data.value?.losses ?? []).filter((l) => what.value === 'all' || !l.part),
)
const most = 200
const shown = computed(() => list.value.slice(0, most))
/** The one that is looked at, as it is now. */
const looked = computed(() => list.value.find((l) => l.what === lost.value?.what) ?? list.value[0])
watch(
  data,
  (now) => {
    if (lost.value && now && !now.losses.some((l) => !l.part && l.what === lost.value?.what)) what.value = 'all'
    const worst = now?.losses[0]
    emit('says', worst?.dark.length ? `${worst.what} leaves ${worst.dark.length} dark` : '')
  },
  { immediate: true },
)
const room = ref<HTMLElement>()
const { width } = useElementSize(room)
const none: ReadonlySet<string> = new Set()
const layout = computed(() => power.value && width.value > 0 && layOut(power.value.nodes, power.value.feeds, none, width.value - 6))
const pick = (n: PowerNode) => n.kind !== 'circuit' && work.pick(n.id)
const kinds = [
  { value: 'things', text: 'Breakers, UPSs, strips' },
  { value: 'all', text: 'With every outlet and lead' },
  { value: 'pairs', text: 'Two feeds at once' },
] as const
</script>

<template>
  <div class="paper-view" data-scroll>
    <div class="segments" role="group" aria-label="What is lost">
      <button v-for="k in kinds" :key="k.value" :aria-pressed="what === k.value" @click="what = k.value">{{ k.text }}</button>
    </div>
    <p v-if="data && !list.length" class="soft">No power leads are documented, so nothing is known to go dark.</p>
    <div v-else-if="shown.length" class="list" tabindex="0" role="region" aria-label="Losses">
      <table class="table">
        <thead>
          <tr>
            <th>Lost</th>
            <th>Dark at once</th>
            <th>Held by a battery</th>
            <th>On its other supply</th>
            <th>Past its limit then</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="l in shown" :key="l.what" :class="{ here: l === looked }" @click="lost = l">
            <th scope="row">
              <button :aria-pressed="l === looked">{{ l.what }}</button>
            </th>
            <td :class="{ bad: l.dark.length }">{{ l.dark.join(', ') || 'nothing' }}</td>
            <td>{{ l.on_battery.join(', ') }}</td>
            <td>{{ l.on_one_leg.join(', ') }}</td>
            <td :class="{ bad: l.over.length }">{{ l.over.join(', ') }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="list.length > most" class="soft">and {{ list.length - most }} more that leave less dark</p>
    <div ref="room" class="room">
      <FeedsDrawing
        v-if="layout && power && looked"
        :layout="layout"
        :nodes="power.nodes"
        :places="power.places"
        :level="level"
        picked=""
        :may="none"
        :lost="looked"
        @pick="pick" />
    </div>
  </div>
</template>

<style scoped>
.segments {
  align-self: flex-start;
  flex: none;
}
.list {
  flex: none;
  max-height: 236px;
  overflow: auto;
  background: var(--sheet);
  border: 1px solid var(--rule);
}
thead th {
  position: sticky;
  top: 0;
  background: var(--sheet);
}
.table {
  width: 100%;
  border-collapse: collapse;
  font-size: 13px;
}
th,
td {
  padding: 4px 8px;
  text-align: left;
  vertical-align: top;
  border-bottom: 1px solid var(--rule);
}
thead th {
  font: 500 13px var(--names);
  color: var(--soft);
}
tbody th button {
  text-align: left;
}
tbody th {
  font: 600 14px var(--names);
}
tbody tr {
  cursor: pointer;
}
.here {
  box-shadow: inset 3px 0 var(--red);
}
tr:hover button {
  color: var(--red);
}
.bad {
  color: var(--red);
}
@media (max-width: 700px) {
  .segments {
    flex-wrap: wrap;
  }
}
</style>
