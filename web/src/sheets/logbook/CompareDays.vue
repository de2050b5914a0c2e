<script setup lang="ts">
// Two days of the lab: what came, went, moved and changed, as a list and on the
// elevation of the picked rack.
import { useElementSize } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { api } from '../../api/address'
import { latest } from '../../api/latest'
import { get, getLabAt, type Comparison } from '../../api/client'
import { marksOf } from '../../draw/marks'
import { heldIn, say, stateOf, useLab, type LabState } from '../../lab/useLab'
import { dayOf, days, today } from '../../lab/words'
import { useWork } from '../../work/work'
import FigureTable from '../drafts/FigureTable.vue'
import RackDrawing from '../rack/RackDrawing.vue'

const work = useWork()
const { lab } = useLab()
const monthAgo = new Date()
monthAgo.setMonth(monthAgo.getMonth() - 1)
const from = ref(dayOf(monthAgo))
const to = ref(today())
const compared = shallowRef<Comparison>()
const then = shallowRef<LabState>()
const room = ref<HTMLElement>()
const { width, height } = useElementSize(room)
const { ask } = latest()

watch(
  () => [from.value, to.value, lab.value?.revision] as const,
  async ([a, b]) => {
    if (!a || !b) return
    await ask(
      () => Promise.all([get(api('/api/v1/compare', { from: `on:${a}`, to: `on:${b}` })), getLabAt(`on:${b}`)]),
      ([c, l]) => {
        compared.value = c
        then.value = stateOf(l)
      },
      (why) => say(why, true),
    )
  },
  { immediate: true },
)

const rack = computed(() => then.value?.racks.get(work.rack?.id ?? '') ?? then.value?.racks.values().next().value)
const held = computed(() => (then.value ? heldIn(then.value) : new Map()))
const space = computed(() => compared.value?.to.spaces.find((s) => s.rack_id === rack.value?.id))
const marks = computed(() => marksOf(compared.value, rack.value?.id ?? ''))
</script>

<template>
  <div class="compare">
    <div class="words">
      <p class="days">
        <label>From <input v-model="from" type="date" :max="today()" aria-label="From" /></label>
        <label>to <input v-model="to" type="date" :max="today()" aria-label="To" /></label>
      </p>
      <FigureTable
        v-if="compared"
        :sides="[
          { name: days(from), says: compared.from },
          { name: days(to), says: compared.to },
        ]" />
      <p v-if="compared && !compared.edits.length" class="soft">
        Between the end of {{ days(from) }} and the end of {{ days(to) }} nothing changed.
      </p>
      <ul data-edits>
        <li v-for="(e, i) in compared?.edits" :key="i" :class="e.verb">
          <b>{{ e.title }}</b>{{ e.says }}
        </li>
      </ul>
    </div>
    <div ref="room" class="room">
      <RackDrawing
        v-if="then && rack && width"
        :lab="then"
        :rack="rack"
        :held="held"
        :space="space"
        :width="width"
        :height="height"
        showing="front"
        picked=""
        :also="[]"
        :ghosts="[]"
        :marks="marks" />
      <p v-else-if="then && !rack" class="soft">There was no rack yet on {{ days(to) }}.</p>
    </div>
  </div>
</template>

<style scoped>
.compare {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(300px, 1fr) minmax(300px, 1.1fr);
  gap: 18px;
  padding: 4px 18px;
}
.words,
.room {
  overflow-y: auto;
  min-height: 0;
}
.days {
  display: flex;
  gap: 12px;
  margin-bottom: 10px;
}
input {
  height: 30px;
  padding: 0 7px;
  font: 400 13px var(--figures);
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
}
ul {
  list-style: none;
}
li {
  padding: 4px 0 4px 12px;
  border-left: 3px solid var(--rule);
  border-bottom: 1px solid var(--rule);
  font-size: 14px;
}
li.added {
  border-left-color: var(--moss);
}
li.removed {
  border-left-color: var(--red);
}
li.moved {
  border-left-color: var(--water);
}
b {
  font: 600 14px var(--names);
}
@media (max-width: 900px) {
  .compare {
    grid-template-columns: minmax(0, 1fr);
    grid-auto-rows: max-content;
    overflow-y: auto;
  }
  .words,
  .room {
    overflow: visible;
  }
}
</style>
