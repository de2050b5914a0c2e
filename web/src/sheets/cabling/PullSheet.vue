<script setup lang="ts">
// What to unplug to take a device out, ticked off at the rack; and the same in
// reverse to put it back. The ticks stay in this browser.
import { useLocalStorage } from '@vueuse/core'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api } from '../../api/address'
import type { Schemas } from '../../api/client'
import JacketMark from '../../draw/JacketMark.vue'
import TitleBlock from '../../frame/TitleBlock.vue'
import { useReport } from '../../lab/useReport'
import { kg } from '../../lab/words'
import { useWork } from '../../work/work'
import { kindName } from './choices'

const route = useRoute()
const router = useRouter()
const work = useWork()
const id = computed(() => String(route.params['id'] ?? ''))
const { data, wrong } = useReport(() => (id.value ? api('/api/v1/devices/{id}/pull', { id: id.value }) : ''))
/** What is out, by device: the cables' ids. */
const out = useLocalStorage<Record<string, string[]>>('levelstaff-pulled', {})
const back = useLocalStorage<string[]>('levelstaff-putting-back', [])
const putting = computed(() => back.value.includes(id.value))
const pulled = computed(() => out.value[id.value] ?? [])
const key = (s: Schemas['PullStep']) => `${s.cable_id} ${s.of ?? ''}${s.port}`
const steps = computed(() => (putting.value ? [...(data.value?.steps ?? [])].reverse() : (data.value?.steps ?? [])))
const isOut = (s: Schemas['PullStep']) => pulled.value.includes(key(s))
const done = (s: Schemas['PullStep']) => isOut(s) !== putting.value
const left = computed(() => steps.value.filter((s) => !done(s)).length)
const cutOff = computed(() => new Set(data.value?.cut_off.map((d) => d.device_id)))
/** What loses all its links, and is not said to be cut off. */
const dark = computed(() => data.value?.dark.filter((d) => !d.keeps && !cutOff.value.has(d.device_id)) ?? [])
const others = computed(() => data.value?.dark.filter((d) => d.keeps) ?? [])
function tick(s: Schemas['PullStep']) {
  out.value = { ...out.value, [id.value]: isOut(s) ? pulled.value.filter((k) => k !== key(s)) : [...pulled.value, key(s)] }
}
function turn() {
  back.value = putting.value ? back.value.filter((d) => d !== id.value) : [...back.value, id.value]
}
function again() {
  out.value = { ...out.value, [id.value]: [] }
  back.value = back.value.filter((d) => d !== id.value)
}
function leave() {
  work.pick(id.value)
  void router.push('/cabling')
}
const part = (s: Schemas['PullStep']) => (s.power ? 'Power' : s.face === 'rear' ? 'At the rear' : 'At the front')
const heading = (i: number) =>
  i === 0 || part(steps.value[i] as Schemas['PullStep']) !== part(steps.value[i - 1] as Schemas['PullStep'])
    ? part(steps.value[i] as Schemas['PullStep'])
    : ''
/** What losing it does to the power of others, each with who they are. */
const power = computed(() => {
  const { dark = [], on_battery = [], on_one_leg = [], over = [] } = data.value?.power ?? {}
  return [
    { said: dark.length === 1 ? 'Goes off' : `${dark.length} go off`, who: dark, bad: true },
    {
      said: on_battery.length === 1 ? 'Goes off when its battery is empty' : 'Go off when the battery is empty',
      who: on_battery,
      bad: true,
    },
    { said: on_one_leg.length === 1 ? 'Keeps another feed' : 'Keep another feed', who: on_one_leg, bad: false },
    { said: 'Past its limit then', who: over, bad: true },
  ].filter((p) => p.who.length)
})
const print = () => window.print()
</script>

<template>
  <main class="sheet grid-paper pull">
    <div class="bar">
      <v-btn size="small" variant="text" @click="leave">‹ Cabling</v-btn>
      <div v-if="data" class="segments" role="group" aria-label="Which way">
        <button :aria-pressed="!putting" @click="putting && turn()">Take it out</button>
        <button :aria-pressed="putting" @click="putting || turn()">Put it back</button>
      </div>
      <v-btn size="small" variant="text" class="print" @click="print">Print</v-btn>
    </div>
    <p v-if="wrong" class="paper bad" role="alert">{{ wrong }}</p>
    <article v-else-if="data" class="paper room">
      <h1>{{ putting ? 'Put back' : 'Take out' }} {{ data.title }}</h1>
      <p class="sum">
        <b :class="{ bad: !data.alone }">{{
          data.alone ? 'It can be removed without touching other leads.' : 'Other leads are in the way.'
        }}</b>{{ ' ' }}
        <template v-if="data.weight_kg !== undefined"
          >It weighs {{ data.at_least ? 'at least ' : '' }}{{ kg(data.weight_kg)
          }}{{ data.with.length ? ' with what is on it' : '' }}.</template
        >
        <template v-else>Weight unknown.</template>
      </p>
      <p v-if="data.with.length">Comes along: {{ data.with.join(', ') }}.</p>
      <p v-if="data.carries?.length">On it: {{ data.carries.join(', ') }}. Take that off first.</p>
      <template v-if="data.across?.length">
        <h2>Leads of others across its face</h2>
        <ul class="across">
          <li v-for="a in data.across" :key="a.cable_id">
            <span class="figure">{{ a.words }}</span> <span class="soft">{{ a.sure ? 'straight over it' : 'perhaps: route unknown' }}</span>
          </li>
        </ul>
      </template>
      <template v-if="!putting">
        <template v-if="power.length">
          <h2>Loses power</h2>
          <p v-for="p in power" :key="p.said" :class="{ soft: !p.bad }">
            <b :class="{ bad: p.bad }">{{ p.said }}:</b> {{ p.who.join(', ') }}
          </p>
        </template>
        <template v-if="data.cut_off.length">
          <h2>Cut off from {{ data.from_line ? 'the line outside' : 'the rest of the network' }}</h2>
          <p>
            <b class="bad">{{ data.cut_off.length === 1 ? '1 device:' : `${data.cut_off.length} devices:` }}</b>
            {{ data.cut_off.map((d) => d.title).join(', ') }}
          </p>
        </template>
        <h2>Loses a link</h2>
        <p v-if="!data.dark?.length" class="soft">Nothing depends on its links.</p>
        <p v-if="dark.length">
          <b class="bad">{{ dark.length === 1 ? 'Goes dark' : `${dark.length} go dark` }}:</b> {{ dark.map((d) => d.title).join(', ') }}
        </p>
        <p v-if="others.length" class="soft">
          {{ others.length === 1 ? 'Keeps' : 'Keep' }} other links: {{ others.map((d) => `${d.title} (${d.keeps})`).join(', ') }}
        </p>
      </template>
      <p v-if="!steps.length" class="soft">No documented cables.</p>
      <p v-else class="left" role="status">
        {{
          left
            ? `${left} of ${steps.length} to ${putting ? 'plug in' : 'unplug'}`
            : putting
              ? 'Everything is back in place.'
              : 'Everything is out.'
        }}
      </p>
      <ol>
        <template v-for="(s, i) in steps" :key="key(s)">
          <li v-if="heading(i)" class="heading">
            <h2>{{ heading(i) }}</h2>
          </li>
          <li>
            <label :class="{ done: done(s) }">
              <input type="checkbox" :checked="done(s)" @change="tick(s)" />
              <b class="port figure">{{ s.of ? `${s.of}/${s.port}` : s.port }}</b>
              <span class="lead"
                ><JacketMark :hex="s.hex" /><b v-if="s.label" class="figure">{{ s.label }}</b>
                {{ [s.colour, kindName(s.cable_kind)].filter(Boolean).join(' ') || 'a lead' }}</span
              >
              <span class="to"
                >{{ putting ? 'from' : 'goes back to' }} <b class="figure">{{ s.to ?? '?' }}</b></span
              >
            </label>
          </li>
        </template>
      </ol>
      <p v-if="pulled.length" class="again"><v-btn size="small" variant="text" @click="again">Start over</v-btn></p>
    </article>
    <TitleBlock :sheet="data ? `Pull sheet, ${data.title}` : 'Pull sheet'" />
  </main>
</template>

<style scoped>
.paper {
  flex: 1;
  min-height: 0;
  max-width: 780px;
  margin: 0 18px 10px;
  padding: 16px 20px;
  overflow-y: auto;
  background: var(--sheet);
  border: 1px solid var(--ink);
}
h1 {
  font-size: 20px;
}
h2 {
  margin: 14px 0 2px;
  font-size: 14px;
  color: var(--soft);
}
ul,
ol {
  list-style: none;
}
.bad {
  color: var(--red);
}
.left {
  margin-top: 12px;
  font-weight: 600;
}
label {
  display: grid;
  grid-template-columns: 26px 70px minmax(0, 1fr) minmax(0, 1fr);
  gap: 8px;
  align-items: center;
  min-height: 40px;
  border-bottom: 1px solid var(--rule);
  cursor: pointer;
}
label input {
  width: 20px;
  height: 20px;
}
.done {
  color: var(--soft);
}
.done .port,
.done .lead {
  text-decoration: line-through;
}
@media (max-width: 700px) {
  .paper {
    margin: 0;
    border-width: 1px 0;
  }
  label {
    grid-template-columns: 34px 58px minmax(0, 1fr);
    min-height: 56px;
    padding: 6px 0;
  }
  label input {
    width: 26px;
    height: 26px;
  }
  .to {
    grid-column: 3;
  }
}
@media print {
  .again {
    display: none;
  }
  input {
    appearance: none;
    border: 1px solid #000;
  }
}
</style>
