<script setup lang="ts">
// The quick line: one line of rundown. As it is typed the server says what it
// would do and how it may go on; Enter does it.
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { latest } from '../api/latest'
import { post, Refused, type Schemas } from '../api/client'
import { attempt, say, useLab } from '../lab/useLab'
import { useActions } from '../work/useActions'
import { useWork } from '../work/work'

const work = useWork()
const { undo, redo } = useActions()
const { lab, send } = useLab()
const focused = ref(false)
const chosen = ref(-1)
const busy = ref(false)
const { ask: latestOnly } = latest()

async function ask() {
  const line = work.line
  if (!focused.value && !line) return
  await latestOnly(
    () => post('/api/v1/lines/check', { base_revision: lab.value?.revision ?? 0, line, rack_id: work.rack?.id }),
    (check) => {
      work.check = check
      chosen.value = -1
    },
    (why) => say(why, true),
  )
}
const soon = useDebounceFn(ask, 15)
watch(
  () => work.line,
  () => void soon(),
)
watch(focused, (now) => now && void ask())

/** A line goes by the lab as it was when it was begun, or when it was said what others did meanwhile. */
let begun = 0
/** What others set to something else since then, of what the line sets. */
const clashes = ref<Schemas['Clash'][]>([])
watch(
  () => work.line,
  (_, before) => {
    clashes.value = []
    if (!before.trim()) begun = lab.value?.revision ?? 0
  },
)
watch(
  () => lab.value?.revision,
  () => work.line.trim() && void soon(),
)

/** Half a word is no mistake while there are ways to go on, until one is done with the line. */
const refused = ref('')
const mistake = computed(() => {
  const first = work.line.trim() ? work.check?.plan.mistakes[0] : undefined
  const typing = completions.value[0]?.from ?? Infinity
  return first && (first.end_column <= typing || refused.value === work.line || !completions.value.length) ? first : undefined
})
const edits = computed(() => (work.line.trim() ? (work.check?.plan.delta.edits ?? []) : []))
const completions = computed(() => work.check?.completions ?? [])
/** What the line would do, once it says something that can be done. */
const kept = computed(() =>
  (work.line.trim() ? (work.check?.plan.kept ?? []) : []).map((k) => (k.counts ? k.text : `“${k.text}” is kept as a remark`)),
)
const would = computed(() => [...edits.value.map((e) => `${e.title}${e.says}`), ...kept.value].join('; '))
/** A line is done: what may come next is no longer in the way until one types on or asks for it. */
const quiet = ref(false)
watch([() => work.line, focused], ([line, here]) => (quiet.value &&= !line && here))
const open = computed(
  () => focused.value && !quiet.value && (completions.value.length > 0 || !!would.value || !!mistake.value || clashes.value.length > 0),
)

function complete(i: number) {
  const c = completions.value[i]
  if (!c) return
  work.line = [...work.line].slice(0, c.from - 1).join('') + c.text
  document.getElementById('quick-line')?.focus()
}

/** The word that was meant takes the place of the one that is wrong. */
function correct() {
  const m = mistake.value
  if (!m?.nearest) return
  const typed = [...work.line]
  work.line = typed.slice(0, m.column - 1).join('') + m.nearest + typed.slice(m.end_column - 1).join('')
  document.getElementById('quick-line')?.focus()
}

/** Sends a line; where others were first it is asked about. */
async function sent(line: string) {
  try {
    return await send('/api/v1/lines', { base_revision: begun, line, rack_id: work.rack?.id })
  } catch (e) {
    if (!(e instanceof Refused) || !e.problem.clashes?.length) throw e
    begun = e.problem.revision ?? begun
    clashes.value = e.problem.clashes
    return undefined
  }
}

async function enter() {
  if (chosen.value >= 0) return complete(chosen.value)
  const line = work.line
  if (!line.trim() || busy.value) return
  refused.value = line
  clashes.value = []
  busy.value = true
  let added: string | undefined
  const done = await attempt(async () => {
    const delta = await sent(line)
    if (!delta) return undefined
    if (!delta.edits?.length) say('Nothing to change: it is already so.')
    if (delta.racks?.[0]) work.pickRack(delta.racks[0].id)
    else if (delta.places?.[0]) work.pickPlace(delta.places[0].id)
    added = delta.devices?.[0]?.id
    return delta
  })
  busy.value = false
  if (!done || clashes.value.length) return
  if (work.line === line) work.line = ''
  quiet.value = !work.line
  if (added) work.pick(added)
}

/** Tab takes what is offered for a word that is begun; else it goes on to what comes after the line. */
const inWord = () => (completions.value[0]?.from ?? Infinity) <= [...work.line].length

function keys(event: KeyboardEvent) {
  const n = completions.value.length
  if (event.key.startsWith('Arrow')) quiet.value = false
  if (event.key === 'ArrowDown' && n) chosen.value = (chosen.value + 1) % n
  else if (event.key === 'ArrowUp' && n) chosen.value = (chosen.value + n) % (n + 1) === n ? -1 : (chosen.value + n) % (n + 1)
  else if (event.key === 'Tab' && !event.shiftKey && n && (chosen.value >= 0 || inWord())) complete(Math.max(0, chosen.value))
  else if (event.key === '.' && event.ctrlKey) correct()
  else if (event.key.toLowerCase() === 'z' && (event.ctrlKey || event.metaKey) && !work.line) void (event.shiftKey ? redo() : undo())
  else if (event.key === 'Escape') {
    if (work.line) work.line = ''
    else (event.target as HTMLElement).blur()
  } else if (event.key === 'Enter') void enter()
  else return
  event.preventDefault()
}

function leave() {
  focused.value = false
  if (!work.line) work.check = undefined
}
</script>

<template>
  <div class="quick" :class="{ wrong: mistake && !open }">
    <input
      id="quick-line"
      v-model="work.line"
      type="text"
      role="combobox"
      aria-label="Quick line"
      aria-autocomplete="list"
      aria-controls="quick-list"
      :aria-expanded="open"
      :aria-invalid="!!mistake"
      aria-describedby="quick-why"
      :aria-activedescendant="chosen >= 0 ? `quick-${chosen}` : undefined"
      :placeholder="work.rack ? '7 switch &quot;attic&quot;: 1U, 2.1kg' : 'rack &quot;Pantry&quot;: 24U, 19in'"
      maxlength="2000"
      spellcheck="false"
      autocomplete="off"
      autocapitalize="off"
      @keydown="keys"
      @focus="focused = true"
      @blur="leave" />
    <div v-show="open" class="drop">
      <p v-show="mistake" class="mistake">
        <span id="quick-why" aria-live="polite">{{ mistake?.detail }}</span>
        <button v-if="mistake?.nearest" type="button" tabindex="-1" @mousedown.prevent="correct">
          write {{ mistake.nearest }} <kbd>Ctrl .</kbd>
        </button>
        <button type="button" tabindex="-1" @mousedown.prevent="work.dialog = 'notation'">How lines are written</button>
      </p>
      <p v-for="(c, i) in clashes" :key="i" class="mistake" role="alert">{{ c.says }}</p>
      <p v-if="clashes.length" class="mistake choice">
        <button type="button" tabindex="-1" @mousedown.prevent="enter">Write yours</button> <kbd>Enter</kbd>
        <button type="button" tabindex="-1" @mousedown.prevent="work.line = ''">Leave theirs</button> <kbd>Esc</kbd>
      </p>
      <p v-else-if="!mistake && would" class="would" data-would>{{ would }} <kbd>Enter</kbd></p>
      <ul id="quick-list" role="listbox" aria-label="Ways to go on">
        <li
          v-for="(c, i) in completions"
          :id="`quick-${i}`"
          :key="c.text"
          role="option"
          :aria-selected="i === chosen"
          :class="{ chosen: i === chosen }"
          @mousedown.prevent="complete(i)">
          <code>{{ c.text }}</code><span class="soft">{{ c.hint }}</span>
        </li>
      </ul>
    </div>
  </div>
</template>

<style scoped>
.quick {
  position: relative;
  flex: 1;
  min-width: 0;
}
input {
  width: 100%;
  height: 30px;
  padding: 0 10px;
  font: 400 14px var(--figures);
  color: var(--ink);
  background: var(--paper);
  border: 1px solid var(--rule);
  border-radius: 3px;
}
input::placeholder {
  color: var(--soft);
  opacity: 1;
}
.drop {
  position: absolute;
  z-index: 20;
  top: 34px;
  left: 0;
  right: 0;
  background: var(--sheet);
  border: 1px solid var(--ink);
  border-radius: 3px;
  box-shadow: 0 4px 14px rgb(0 0 0 / 18%);
}
.drop p {
  padding: 6px 10px;
  font-size: 13px;
}
.would {
  border-left: 3px solid var(--moss);
}
.mistake {
  border-left: 3px solid var(--red);
}
.mistake button {
  margin-left: 8px;
  background: none;
  border: 0;
  color: var(--water);
  text-decoration: underline;
  cursor: pointer;
}
.choice button:first-child {
  margin-left: 0;
}
kbd {
  font: 400 12px var(--figures);
  border: 1px solid var(--rule);
  border-radius: 3px;
  padding: 0 4px;
}
ul {
  list-style: none;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 3px 10px;
  cursor: pointer;
}
li code {
  font: 400 13px var(--figures);
  white-space: pre;
}
li span {
  font-size: 12px;
}
li.chosen,
li:hover {
  background: var(--strip);
}
@media (max-width: 700px) {
  input {
    height: 46px;
    font-size: 16px;
  }
  .drop {
    top: auto;
    bottom: 50px;
    max-height: 50vh;
    overflow-y: auto;
  }
  li,
  .choice button {
    min-height: 44px;
    align-items: center;
  }
}
</style>
