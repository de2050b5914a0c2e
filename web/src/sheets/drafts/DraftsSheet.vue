<script setup lang="ts">
// Drafts against the lab as built: the picked rack as it is, as one draft makes
// it and as another would, with the figures under them; at the right the steps.
import { useElementSize } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { api } from '../../api/address'
import { latest } from '../../api/latest'
import { get, getLabAt, type Comparison, type Draft, type DraftEffect } from '../../api/client'
import { marksOf } from '../../draw/marks'
import { faceMM, unitMM } from '../../draw/scale'
import { heldIn, say, stateOf, useLab, type LabState } from '../../lab/useLab'
import SheetFrame from '../../frame/SheetFrame.vue'
import { effectOf, useDrafts } from '../../work/useDrafts'
import { useWork } from '../../work/work'
import RackDrawing from '../rack/RackDrawing.vue'
import DraftSteps from './DraftSteps.vue'
import FigureTable from './FigureTable.vue'

/** One of the labs that stand beside each other. */
interface Side {
  id: string
  name: string
  lab: LabState
  compared: Comparison
  effect?: DraftEffect
}

const work = useWork()
const { lab } = useLab()
const { drafts, chosenId, begin, choose } = useDrafts()
const picked = ref('')
const shownId = computed(
  () => chosenId.value || (drafts.value.some((d) => d.id === picked.value) ? picked.value : (drafts.value[0]?.id ?? '')),
)
const others = computed(() => drafts.value.filter((d) => d.id !== shownId.value))
const beside = ref<string>()
/** Beside the draft stands another one, unless that is not wanted. */
const otherId = computed({
  get: () => (beside.value === undefined || beside.value === shownId.value ? (others.value[0]?.id ?? '') : beside.value),
  set: (id) => (beside.value = id),
})
/** Whoever works in a draft goes on in the one that is shown, and is told so. */
async function pick(d: Draft) {
  picked.value = d.id
  if (chosenId.value && chosenId.value !== d.id && (await choose(d.id))) say(`You work in the draft “${d.name}” now.`)
}
const sides = shallowRef<Side[]>([])
const room = ref<HTMLElement>()
const { width, height } = useElementSize(room)
const { ask } = latest()

async function sideOf(view: string, name: string, rack: string): Promise<Side> {
  const id = view.replace(/^draft:/, '')
  const [whole, compared, effect] = await Promise.all([
    getLabAt(view),
    get(api('/api/v1/compare', { from: 'built', to: view, rack_id: rack })),
    view === 'built' ? undefined : effectOf(id),
  ])
  return { id, name, lab: stateOf(whole), compared, effect }
}

watch(
  () => [lab.value?.revision, shownId.value, otherId.value, work.rack?.id ?? ''] as const,
  async ([, shown, other, rack]) => {
    const name = (id: string) => drafts.value.find((d) => d.id === id)?.name ?? ''
    const drafted = [shown, ...(other === shown ? [] : [other])].filter(name)
    await ask(
      () =>
        Promise.all(
          drafted.length ? [sideOf('built', 'As built', rack), ...drafted.map((id) => sideOf(`draft:${id}`, name(id), rack))] : [],
        ),
      (list) => (sides.value = list),
      (why) => say(why, true),
    )
  },
  { immediate: true },
)

const shown = computed(() => sides.value.find((s) => s.id === shownId.value))
/** A rack that a draft brings is in none of the others. */
const rackIn = (side: Side) => side.lab.racks.get(work.rack?.id ?? '') ?? side.lab.racks.values().next().value
const scale = computed(() => {
  const n = Math.max(2, sides.value.length)
  const racks = sides.value.flatMap((s) => rackIn(s) ?? [])
  const tallest = Math.max(9, ...racks.map((r) => r.height_u))
  const widest = Math.max(254, ...racks.map(faceMM))
  return Math.max(0.2, Math.min(0.6, ((width.value - 70) / n - 48) / widest, (height.value - 50) / ((tallest + 1.7) * unitMM)))
})
</script>

<template>
  <SheetFrame :bare="!drafts.length">
    <template #bar>
      <div class="segments" role="group" aria-label="Draft">
        <button v-for="d in drafts" :key="d.id" :aria-pressed="d.id === shownId" @click="pick(d)">
          {{ d.name }}
        </button>
      </div>
      <label v-if="others.length" class="against"
        >next to
        <select v-model="otherId" class="field" aria-label="Next to another draft">
          <option value="">nothing</option>
          <option v-for="d in others" :key="d.id" :value="d.id">{{ d.name }}</option>
        </select></label
      >
      <v-btn size="small" variant="text" @click="begin()">Start another</v-btn>
      <p class="soft legend">Dashed: new. Struck out: removed. Arrow: moved.</p>
    </template>
    <section v-if="!drafts.length" class="first">
      <h2 class="title">No draft yet</h2>
      <p>
        A draft is a list of planned changes on top of the lab as built. While you work in it, all your changes go into it: drag, type
        lines, remove. Then compare it, price its steps, and tick them off as you carry them out.
      </p>
      <v-btn v-if="lab?.view.kind !== 'past'" @click="begin()">Start a draft</v-btn>
    </section>
    <div v-else class="body">
      <div class="compared" tabindex="0" role="region" aria-label="Compared">
        <div ref="room" class="drawings">
          <figure v-for="(s, i) in sides" :key="s.id" :class="{ shown: s.id === shownId }">
            <figcaption>{{ s.name }}</figcaption>
            <RackDrawing
              v-if="rackIn(s) && width"
              :lab="s.lab"
              :rack="rackIn(s)!"
              :held="heldIn(s.lab)"
              :space="s.compared.to.spaces.find((x) => x.rack_id === rackIn(s)?.id)"
              :width="width"
              :height="height"
              showing="front"
              picked=""
              :also="[]"
              :ghosts="[]"
              :marks="marksOf(s.compared, rackIn(s)?.id ?? '')"
              :fixed="scale"
              :bare="i > 0"
              @pick="work.pick"
              @lift="(d) => work.pick(d.id)" />
          </figure>
        </div>
        <FigureTable v-if="sides.length" :of="work.rack?.name" :sides="sides.map((s) => ({ name: s.name, says: s.compared.to }))" />
      </div>
      <DraftSteps v-if="shown?.effect && lab" :key="shownId" :effect="shown.effect" />
    </div>
  </SheetFrame>
</template>

<style scoped>
.first {
  max-width: 520px;
  margin: 60px 32px;
  padding: 22px;
  display: grid;
  gap: 12px;
  justify-items: start;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
}
.legend {
  font-size: 13px;
  margin-left: auto;
}
.body {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 332px;
}
.compared {
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
  padding: 0 18px;
  overflow: auto;
}
.drawings {
  flex: 1 0 300px;
  display: flex;
  gap: 10px;
}
figure {
  margin: 0;
  flex: none;
}
figcaption {
  font: 600 15px var(--names);
}
figure.shown figcaption {
  color: var(--red);
}
figure :deep(.head) {
  visibility: hidden;
}
figure :deep(svg) {
  margin-top: -16px;
}
@media (max-width: 1000px) {
  .body {
    grid-template-columns: 1fr;
    overflow-y: auto;
  }
  .legend,
  .drawings {
    display: none;
  }
}
</style>
