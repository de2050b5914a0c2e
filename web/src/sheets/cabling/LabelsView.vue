<script setup lang="ts">
// Labels by a pattern, and a sheet of them to print.
import { useLocalStorage } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { latest } from '../../api/latest'
import { getText, post, Refused, view, type Schemas } from '../../api/client'
import { attempt, useLab } from '../../lab/useLab'
import './lists.css'

const { lab, send } = useLab()
/** As it is typed; the lab's own until then. */
const typed = ref<string>()
const own = ref('')
const pattern = computed({ get: () => typed.value ?? own.value, set: (to) => (typed.value = to) })
const which = ref<'none' | 'all'>('none')
/** How they were printed last. */
const sheet = useLocalStorage('levelstaff-labels', { wide: 50, high: 15, wrap: false, code: true, letter: false })
const plan = ref<Schemas['Label'][]>([])
const wrong = ref('')

const channel = ref(false)
const asked = computed(() => ({
  all: which.value === 'all',
  channel: channel.value,
  ...(typed.value === undefined ? {} : { pattern: typed.value }),
}))
const { ask } = latest()
watch(
  [asked, () => lab.value?.revision],
  () =>
    ask(
      () => post('/api/v1/labels/check', asked.value),
      (answer) => {
        plan.value = answer.labels
        own.value = answer.pattern
        wrong.value = ''
      },
      (why) => (wrong.value = why),
    ),
  { immediate: true },
)
const label = () => attempt(() => send('/api/v1/labels', asked.value))
const asUsual = () =>
  attempt(() => send('/api/v1/facts', { record: { kind: 'lab', id: 'lab' }, field: 'label_pattern', text: pattern.value }))
const labelled = computed(() => [...(lab.value?.cables.values() ?? [])].filter((c) => c.label).length)
const query = computed(() => {
  const { wide, high, wrap, code, letter } = sheet.value
  const at = view.value ? `&view=${encodeURIComponent(view.value)}` : ''
  return `?wide_mm=${wide}&high_mm=${high}&wrap=${wrap}&code=${code}&letter=${letter}${at}`
})
/** The first labels as they are printed, or why they cannot be. */
const drawn = ref('')
const unprinted = ref('')
watch(
  [query, () => lab.value?.revision],
  async (_now, _before, outdated) => {
    let latest = true
    outdated(() => (latest = false))
    drawn.value = unprinted.value = ''
    const first = [...(lab.value?.cables.values() ?? [])].filter((c) => c.label).slice(0, 12)
    if (!first.length) return
    try {
      const svg = await getText(`/api/v1/files/labels.svg${query.value}${first.map((c) => `&cable_id=${c.id}`).join('')}`)
      if (latest) drawn.value = `data:image/svg+xml,${encodeURIComponent(svg)}`
    } catch (e) {
      if (!(e instanceof Refused)) throw e
      if (latest) unprinted.value = e.message
    }
  },
  { immediate: true },
)
</script>

<template>
  <div class="list-room labels">
    <section>
      <h2>Label cables</h2>
      <p>
        <label>Pattern <input v-model="pattern" class="field" spellcheck="false" :aria-invalid="!!wrong" /></label>
      </p>
      <p class="soft">{panel} {port} {port:02} {a} {b} {kind} {colour} {length}. Duplicates get a number.</p>
      <p v-if="wrong" class="bad" role="alert">{{ wrong }}</p>
      <p class="choice">
        <label><input v-model="which" type="radio" value="none" /> those without a label</label>
        <label><input v-model="which" type="radio" value="all" /> all, including labelled ones</label>
        <label><input v-model="channel" type="checkbox" /> one for a whole channel, front and rear</label>
      </p>
      <ul class="plan">
        <li v-for="l in plan.slice(0, 12)" :key="l.cable_id">
          <b class="figure">{{ l.text }}</b> <span class="soft">{{ l.a }} – {{ l.b }}</span>
        </li>
      </ul>
      <p v-if="plan.length > 12" class="soft">and {{ plan.length - 12 }} more</p>
      <p v-if="!plan.length && !wrong" class="soft">Every cable has a label.</p>
      <div v-if="lab?.view.kind !== 'past'" class="buttons">
        <v-btn :disabled="!plan.length || !!wrong" @click="label">Label {{ plan.length }}</v-btn>
        <v-btn v-if="pattern !== own" variant="text" :disabled="!!wrong" @click="asUsual">Save as the lab’s pattern</v-btn>
      </div>
    </section>
    <section>
      <h2>Print them</h2>
      <p class="choice">
        <label
          >Size <input v-model.number="sheet.wide" class="field mm" type="number" min="5" max="190" aria-label="Width in mm" /> ×
          <input v-model.number="sheet.high" class="field mm" type="number" min="5" max="190" aria-label="Height in mm" /> mm</label
        >
        <label><input v-model="sheet.wrap" type="checkbox" /> wraps round the cable</label>
        <label><input v-model="sheet.code" type="checkbox" /> with a code that opens the card</label>
        <label><input v-model="sheet.letter" type="checkbox" /> US letter</label>
      </p>
      <p class="buttons">
        <v-btn :href="`/api/v1/files/labels.pdf${query}`" :disabled="!labelled || !!unprinted" download>PDF, {{ labelled }} labels</v-btn
        ><v-btn variant="text" :href="`/api/v1/files/labels.svg${query}`" :disabled="!labelled || !!unprinted" download>SVG</v-btn>
      </p>
      <p v-if="unprinted" class="bad" role="alert">{{ unprinted }}</p>
      <div v-else-if="drawn" class="paper"><img :src="drawn" alt="The first labels of the sheet" /></div>
      <p v-else-if="!labelled" class="soft">No cable has a label yet.</p>
    </section>
  </div>
</template>

<style scoped>
.mm {
  width: 68px;
}
.labels {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(320px, 1fr));
  gap: 28px;
}
.choice {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 16px;
  margin: 8px 0;
}
.plan {
  list-style: none;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin: 10px 0;
}
.paper {
  height: 300px;
  overflow: hidden;
  background: #fff;
  border: 1px solid var(--rule);
}
.paper img {
  display: block;
  width: 100%;
}
</style>
