<script setup lang="ts">
// The ways through the building: what lies in each, how full it is, and what
// still goes in.
import { computed, ref } from 'vue'
import { api } from '../../api/address'
import type { Schemas } from '../../api/client'
import { attempt, useLab } from '../../lab/useLab'
import { useReport } from '../../lab/useReport'
import FactList from '../../card/FactList.vue'
import { kindName } from './choices'
import { useCabling } from '../../work/useCabling'
import JacketMark from '../../draw/JacketMark.vue'
import ConduitDrawing from './ConduitDrawing.vue'
import './lists.css'

const { pickCable } = useCabling()
const { lab, send, remove } = useLab()
const { data } = useReport(() => api('/api/v1/reports/runs'))
const { data: table } = useReport(() => api('/api/v1/tables/runs', { columns: 'length_m,inside_mm,from_place_id,to_place_id' }))
const factsOf = (id: string) => {
  const row = table.value?.rows.find((r) => r.id === id)
  return (table.value?.columns ?? []).map((c, i) => ({
    ...c,
    kind: undefined,
    name: c.title,
    words: c.kind === 'words',
    text: row?.cells[i],
  }))
}
const runs = computed(() =>
  (data.value?.runs ?? []).flatMap((use) => {
    const run = lab.value?.runs.get(use.run_id)
    return run ? [{ run, use, holds: use.holds.map((h) => ({ ...h, cable: lab.value?.cables.get(h.cable_id) })) }] : []
  }),
)
const says = (u: Schemas['RunUse']) => {
  if (u.filled_percent === undefined) return 'width unknown'
  const full = `${u.unknown ? 'at least ' : ''}${u.filled_percent.toFixed(0)} % of at most ${u.most_percent?.toFixed(0)} %`
  if (u.over) return `${full}: overfilled`
  if (u.more_cat6 === undefined) return full
  return u.more_cat6 ? `${full}; ${u.more_cat6} more of Cat 6 go${u.more_cat6 === 1 ? 'es' : ''} in` : `${full}; full`
}
const typed = ref('')
async function make() {
  if (typed.value.trim() && (await attempt(() => send('/api/v1/lines', { line: `run "${typed.value.trim().replaceAll('"', '')}"` }))))
    typed.value = ''
}
const gone = (id: string) => attempt(() => send('/api/v1/changes', { changes: [remove({ kind: 'run', id })] }))
</script>

<template>
  <div class="list-room runs">
    <section v-for="r in runs" :key="r.run.id" :aria-label="r.run.name">
      <ConduitDrawing v-if="r.run.inside_mm" :inside-mm="r.run.inside_mm" :holds="r.use.holds" :says="says(r.use)" />
      <svg v-else class="wide" width="112" height="112" viewBox="0 0 112 112" role="img" aria-label="Width unknown">
        <circle cx="56" cy="56" r="50" />
        <text x="56" y="56">?</text>
      </svg>
      <div class="about">
        <div class="head">
          <h2>{{ r.run.name }}</h2>
          <span :class="{ bad: r.use.over }">{{ says(r.use) }}</span>
        </div>
        <div class="facts"><FactList :record="{ kind: 'run', id: r.run.id }" :facts="factsOf(r.run.id)" /></div>
        <p v-if="r.run.notes" class="soft">{{ r.run.notes }}</p>
        <ul>
          <li v-for="h in r.holds" :key="h.cable_id">
            <button @click="pickCable(h.cable)">
              <JacketMark :hex="h.hex" /><span class="figure">{{ h.a }} = {{ h.b }}</span>
            </button>
            <span class="soft">{{
              [h.cable?.label, kindName(h.cable?.cable_kind), h.cable?.length_m && `${h.cable.length_m} m`, h.cable?.notes]
                .filter(Boolean)
                .join(', ')
            }}</span>
          </li>
        </ul>
        <p v-if="!r.holds.length" class="soft">
          No cables in it. <v-btn v-if="lab?.view.kind !== 'past'" size="small" variant="text" @click="gone(r.run.id)">Remove</v-btn>
        </p>
      </div>
    </section>
    <p v-if="!runs.length" class="soft">
      No runs yet. A run is a way through the building, such as a conduit between floors; cables that lie in it say so: via "stairs run".
    </p>
    <form v-if="lab?.view.kind !== 'past'" @submit.prevent="make">
      <input v-model="typed" class="field" placeholder="stairs run" aria-label="Name of a new run" />
      <v-btn size="small" type="submit" :disabled="!typed.trim()">Add a run</v-btn>
    </form>
  </div>
</template>

<style scoped>
section {
  display: flex;
  gap: 20px;
  margin-bottom: 26px;
}
.about {
  flex: 1;
  min-width: 0;
}
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  align-items: baseline;
  margin-bottom: 4px;
}
.head h2 {
  margin: 0;
}
.wide {
  flex: none;
}
.wide circle {
  fill: none;
  stroke: var(--red);
  stroke-dasharray: 4 4;
}
.wide text {
  font: 500 24px var(--figures);
  text-anchor: middle;
  dominant-baseline: central;
  fill: var(--red);
}
.facts {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  column-gap: 22px;
}
ul {
  margin-top: 6px;
  list-style: none;
}
li {
  padding: 2px 0;
}
@media (max-width: 700px) {
  section {
    flex-direction: column;
    gap: 8px;
  }
}
</style>
