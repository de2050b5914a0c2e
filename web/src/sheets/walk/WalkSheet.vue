<script setup lang="ts">
// The walk: from top to bottom through what is not documented, one question
// at a time, made for a phone in front of the rack. Where one stopped is kept
// in this browser; what was answered is in the lab.
import { computed, nextTick, onMounted, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '../../api/address'
import { latest } from '../../api/latest'
import { get, Refused, type Schemas } from '../../api/client'
import { useLab } from '../../lab/useLab'
import { useReport } from '../../lab/useReport'
import { whatIs, title } from '../../lab/words'
import { useWork } from '../../work/work'
import WalkDrawing from './WalkDrawing.vue'

const work = useWork()
const router = useRouter()
const { lab, send, held } = useLab()

const rack = computed(() => work.rack)
const { data: walk } = useReport(() => api('/api/v1/walk', { rack_id: work.place ? undefined : rack.value?.id }))
const keyOf = (g: Schemas['Gap']) => `${g.device_id} ${g.cable_id ?? ''} ${g.field}`

/** Questions that were passed over on this walk; they are asked again on the next one. */
const place = computed(() => `levelstaff-walk-${rack.value?.id ?? 'elsewhere'}`)
const passed = ref(new Set<string>())
/** Where one has been, for going back. */
const trail = ref<string[]>([])
const at = ref('')

function remember() {
  localStorage.setItem(place.value, JSON.stringify({ passed: [...passed.value], at: at.value }))
}
function recall() {
  try {
    const kept = JSON.parse(localStorage.getItem(place.value) ?? '{}') as { passed?: string[]; at?: string }
    passed.value = new Set(kept.passed ?? [])
    at.value = kept.at ?? ''
  } catch {
    passed.value = new Set()
  }
}
onMounted(recall)
watch(place, recall)

const gaps = computed(() => walk.value?.gaps ?? [])
const left = computed(() => gaps.value.filter((g) => !passed.value.has(keyOf(g))))
const gap = computed(() => {
  if (work.walkFrom) {
    const first = gaps.value.find((g) => g.device_id === work.walkFrom)
    if (first) return first
  }
  return gaps.value.find((g) => keyOf(g) === at.value) ?? left.value[0]
})
const device = computed(() => lab.value?.devices.get(gap.value?.device_id ?? ''))
const next = computed(() => {
  const now = gap.value
  return now ? (left.value[left.value.indexOf(now) + 1] ?? left.value.find((g) => g !== now)) : undefined
})
const number = computed(() => (gap.value ? (walk.value?.of ?? 0) - gaps.value.length + gaps.value.indexOf(gap.value) + 1 : 0))
const sub = computed(() => {
  const d = device.value
  return d && [whatIs(d), gap.value?.where, d.purpose].filter(Boolean).join(' · ')
})

const answer = ref('')
const wrong = ref('')
/** The revision that the question was shown at, or what others did since then was. */
let shownAt = 0
const fit = shallowRef<Schemas['Check'][]>([])
const input = ref<HTMLInputElement>()
watch(
  () => gap.value && keyOf(gap.value),
  async () => {
    answer.value = ''
    wrong.value = ''
    shownAt = lab.value?.revision ?? 0
    fit.value = []
    if (gap.value) work.pick(gap.value.device_id)
    await nextTick()
    input.value?.focus()
  },
  { immediate: true },
)

const measures = new Set(['depth_mm', 'width_mm', 'weight_kg', 'mount'])
const { ask } = latest()
watch(answer, async (text) => {
  wrong.value = ''
  const now = gap.value
  const asked = now && measures.has(now.field) && text.trim() ? now : undefined
  await ask(
    async () => asked && (await get(api('/api/v1/fit', { device_id: asked.device_id, field: asked.field, text }))),
    (answered) =>
      (fit.value =
        !answered || answered.wrong
          ? []
          : answered.checks.filter((c) => c.outcome !== 'unchecked' && (c.about === asked?.field.split('_')[0] || c.about === 'behind'))),
  )
})

async function set(text: string) {
  const now = gap.value
  if (!now) return
  const following = next.value
  try {
    const [what, port] = now.field.split(':')
    if (what === 'plugged' && text !== 'nobody knows') {
      const name = lab.value?.devices.get(now.device_id)?.name ?? ''
      await send('/api/v1/lines', { line: `${text} - ${JSON.stringify(name)}/${port}` })
    } else if (now.line && text !== 'nobody knows') await send('/api/v1/lines', { line: now.line.replace('%s', text) })
    else if (what === 'parts' && text !== 'nobody knows') await send('/api/v1/devices/{id}/parts', { text }, { id: now.device_id })
    else {
      const record = now.cable_id ? { kind: 'cable' as const, id: now.cable_id } : { kind: 'device' as const, id: now.device_id }
      await send('/api/v1/facts', { base_revision: shownAt, record, field: now.field, text })
    }
    go(following, now)
  } catch (e) {
    if (!(e instanceof Refused)) throw e
    wrong.value = e.message
    shownAt = e.problem.revision ?? shownAt
  }
}

function go(to: Schemas['Gap'] | undefined, from?: Schemas['Gap']) {
  work.walkFrom = ''
  if (from) trail.value.push(keyOf(from))
  at.value = to ? keyOf(to) : ''
  remember()
}

function skip() {
  const now = gap.value
  if (!now) return
  const following = next.value
  passed.value = new Set([...passed.value, keyOf(now)])
  go(following, now)
}
function back() {
  for (let key = trail.value.pop(); key; key = trail.value.pop()) {
    if (!gaps.value.some((g) => keyOf(g) === key)) continue
    passed.value.delete(key)
    at.value = key
    remember()
    return
  }
  const before = gaps.value[gaps.value.indexOf(gap.value as Schemas['Gap']) - 1]
  if (before) go(before)
}
function keep() {
  if (answer.value.trim()) void set(answer.value)
  else skip()
}
function again() {
  passed.value = new Set()
  remember()
}
function stop() {
  remember()
  void router.push('/rack')
}
const nextWords = computed(() => {
  if (!next.value) return ''
  const other = next.value.device_id === gap.value?.device_id ? undefined : lab.value?.devices.get(next.value.device_id)
  return `${other ? `${title(other)}: ` : ''}${next.value.question}`
})
const name = computed(() => work.place?.name ?? rack.value?.name ?? 'Elsewhere')
</script>

<template>
  <main class="walk">
    <header>
      <h1>Walk: {{ name }}</h1>
      <p class="soft figure" role="status">
        <template v-if="walk && gap">{{ number }} of {{ walk.of }}</template>
      </p>
      <button @click="stop">stop here</button>
    </header>
    <div v-if="walk && gap && device && lab" class="ask">
      <WalkDrawing v-if="rack && !work.place" :lab="lab" :rack="rack" :held="held" :device="device" />
      <h2>{{ title(device) }}</h2>
      <p class="soft">{{ sub }}</p>
      <label for="walk-answer">{{ gap.question }}</label>
      <div class="field" :class="{ bad: wrong }">
        <input
          id="walk-answer"
          ref="input"
          v-model="answer"
          class="figure"
          :placeholder="gap.example"
          :inputmode="gap.unit ? 'decimal' : 'text'"
          autocomplete="off"
          autocapitalize="off"
          spellcheck="false"
          @keydown.enter.prevent="keep" />
        <span v-if="gap.unit" class="figure soft">{{ gap.unit }}</span>
      </div>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <p v-for="c in fit" :key="c.about" class="fit" role="status">
        {{ c.say }}
        <b v-if="c.spare_mm !== undefined" :class="{ no: c.outcome === 'no' }"
          >{{ Math.abs(Math.round(c.spare_mm * 10) / 10) }} mm {{ c.spare_mm < 0 ? 'too much' : 'to spare' }}.</b
        >
      </p>
      <p v-if="!fit.length && gap.matters && !wrong" class="soft">It tells you {{ gap.matters }}.</p>
      <div class="ways">
        <button @click="skip">Skip</button>
        <button v-if="!gap.cable_id" @click="set('nobody knows')">Nobody knows</button>
      </div>
      <p v-if="nextWords" class="soft">Next: {{ nextWords }}</p>
    </div>
    <div v-else-if="walk" class="ask">
      <h2>{{ gaps.length ? 'That is all for now' : 'Nothing missing here' }}</h2>
      <p>{{ walk.known }} of {{ walk.of }} facts that matter are known.</p>
      <div v-if="gaps.length" class="ways">
        <button @click="again">Go back to the {{ gaps.length }} skipped</button>
      </div>
    </div>
    <footer>
      <button class="back" :disabled="!gap" @click="back">‹ Back</button>
      <button class="keep" :disabled="!gap" @click="keep">{{ answer.trim() ? 'Save, next ›' : 'Next ›' }}</button>
    </footer>
  </main>
</template>

<style scoped>
.walk {
  display: flex;
  flex-direction: column;
  width: 100%;
  max-width: 560px;
  margin: 0 auto;
  background: var(--sheet);
  border: solid var(--rule);
  border-width: 0 1px;
}
header {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 8px 16px;
  border-bottom: 2px solid var(--ink);
}
header h1 {
  flex: 1;
  font-size: 18px;
}
header button {
  min-height: 44px;
  color: var(--soft);
  text-decoration: underline dotted;
}
.ask {
  flex: 1;
  min-height: 0;
  padding: 14px 16px;
  overflow-y: auto;
}
.ask h2 {
  margin-top: 12px;
  font: 600 24px/1.2 var(--names);
}
label {
  display: block;
  margin: 20px 0 8px;
  font: 500 21px/1.25 var(--names);
}
.field {
  display: flex;
  align-items: center;
  height: 54px;
  padding: 0 14px;
  border: 1px solid var(--red);
  border-radius: 3px;
}
.field:focus-within {
  outline: 2px solid var(--water);
}
.field input {
  flex: 1;
  min-width: 0;
  height: 100%;
  font-size: 22px;
  color: var(--ink);
  background: none;
  border: 0;
  outline: 0;
}
.field input::placeholder {
  color: var(--soft);
  opacity: 0.75;
}
.fit,
.wrong {
  margin-top: 8px;
}
.fit b {
  color: var(--moss);
}
.fit b.no,
.wrong {
  color: var(--red);
}
.ask > .soft {
  margin-top: 8px;
  font-size: 14px;
}
.ways {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
  margin: 20px 0 14px;
}
.ways button,
footer button {
  min-height: 50px;
  padding: 0 14px;
  font: 500 17px var(--names);
  text-align: left;
  border: 1px solid var(--ink);
  border-radius: 3px;
}
footer {
  display: grid;
  grid-template-columns: 1fr 2fr;
  gap: 10px;
  padding: 10px 14px;
  border-top: 1px solid var(--rule);
}
footer .keep {
  text-align: center;
  color: var(--paper);
  background: var(--ink);
}
footer :disabled {
  opacity: 0.4;
}
</style>
