<script setup lang="ts">
// While a made-up rack is in the lab: the first lines, which write themselves into
// the quick line for one to enter, and one click that throws the rack away.
import { useIntervalFn, usePreferredReducedMotion } from '@vueuse/core'
import { computed } from 'vue'
import { api } from '../api/address'
import { trialRack } from '../api/core.gen'
import { attempt, say, useLab } from '../lab/useLab'
import { useReport } from '../lab/useReport'
import { useWork } from '../work/work'

const { send } = useLab()
const work = useWork()
const still = usePreferredReducedMotion()
const { data } = useReport(() => api('/api/v1/trial'))
const lines = computed(() => data.value ?? [])
/** The first line that is not entered yet. */
const at = computed(() => lines.value.findIndex((l) => !l.done))
const next = computed(() => lines.value[at.value])

/** What is being written. */
let writing = ''
const { pause, resume } = useIntervalFn(
  () => {
    const n = [...work.line].length
    // Whoever types something else goes on alone.
    if (work.line !== [...writing].slice(0, n).join('')) return pause()
    work.line = [...writing].slice(0, n + 1).join('')
    if (work.line === writing) pause()
  },
  28,
  { immediate: false },
)

function write() {
  if (!next.value) return
  if (work.rack?.id !== trialRack) work.pickRack(trialRack)
  writing = next.value.line
  work.line = still.value === 'reduce' ? writing : ''
  document.getElementById('quick-line')?.focus()
  if (!work.line) resume()
}
async function throwAway() {
  pause()
  work.line = ''
  if (await attempt(() => send('/api/v1/trial/away', {}))) say('The made-up rack is gone. Undo brings it back.')
}
</script>

<template>
  <section class="band" aria-label="Made-up rack">
    <p>
      <b>A made-up rack to try things in.</b>
      <template v-if="next"> {{ at + 1 }} of {{ lines.length }}. {{ next.says }}</template>
      <template v-else-if="lines.length">
        That is all it takes. Pull things about, pick one to fill in its card, press ? for the keys. Then throw it away and start with your
        own.
      </template>
    </p>
    <v-btn v-if="next" size="small" @click="write">Write line {{ at + 1 }}</v-btn>
    <v-btn size="small" variant="text" @click="throwAway">Throw it away</v-btn>
  </section>
</template>

<style scoped>
.band {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 10px;
  padding: 4px 16px;
  font-size: 13px;
  background: color-mix(in srgb, var(--sheet) 84%, var(--brass));
  border-bottom: 1px solid var(--brass);
}
p {
  flex: 1 1 300px;
}
b {
  margin-right: 8px;
  font: 600 14px var(--names);
}
</style>
