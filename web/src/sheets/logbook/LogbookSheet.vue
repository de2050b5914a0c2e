<script setup lang="ts">
// Every change that was made, the latest first: the way back, a look at any
// day, two days beside each other, and notes by hand.
import { computed, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '../../api/address'
import { latest } from '../../api/latest'
import { get, type Schemas } from '../../api/client'
import { attempt, look, say, useLab } from '../../lab/useLab'
import { dayOf, days, today } from '../../lab/words'
import SheetFrame from '../../frame/SheetFrame.vue'
import { useSheet } from '../../frame/sheets'
import BackDialog from './BackDialog.vue'
import CompareDays from './CompareDays.vue'

type Entry = Schemas['LogEntry']

const { lab, send, add, remove } = useLab()
const router = useRouter()
const entries = shallowRef<Entry[]>([])
const more = ref(false)
const text = ref('')
const { tab } = useSheet()
const comparing = computed(() => tab.value?.path === 'compare')
const opened = ref(0)
const edits = shallowRef<Schemas['Edit'][]>([])
const noteDay = ref(today())
const noteText = ref('')
const past = computed(() => lab.value?.view.kind === 'past')

const list = latest()
const readEntries = (before?: number) =>
  list.ask(
    () => get(api('/api/v1/logbook', { limit: 100, before, q: text.value.trim() })),
    (piece) => {
      entries.value = before ? [...entries.value, ...piece.entries] : piece.entries
      more.value = piece.more
    },
    (why) => say(why, true),
  )
watch([() => lab.value?.revision, text], () => void readEntries(), { immediate: true })

/** Changes and notes by the day they belong to, the latest day first. */
const byDay = computed(() => {
  const list = new Map<string, { notes: Schemas['Note'][]; entries: Entry[] }>()
  const on = (day: string) => {
    const is = list.get(day) ?? { notes: [], entries: [] }
    list.set(day, is)
    return is
  }
  for (const e of entries.value) {
    // A note by hand is shown as itself, and not once more as a change.
    if (!e.records.length || e.records.some((r) => r.kind !== 'note' || !lab.value?.notes.has(r.id)))
      on(dayOf(new Date(e.at))).entries.push(e)
  }
  const oldest = entries.value.at(-1)
  for (const n of lab.value?.notes.values() ?? []) {
    const found = !text.value.trim() || n.text.toLowerCase().includes(text.value.trim().toLowerCase())
    if (found && (!more.value || !oldest || n.day >= dayOf(new Date(oldest.at)))) on(n.day).notes.push(n)
  }
  return [...list].sort(([a], [b]) => (a < b ? 1 : -1))
})
const clock = (at: string) => new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })

const one = latest()
async function open(e: Entry) {
  opened.value = opened.value === e.revision ? 0 : e.revision
  edits.value = []
  await one.ask(
    async () => (opened.value ? (await get(api('/api/v1/logbook/{revision}', { revision: e.revision }))).edits : []),
    (of) => (edits.value = of),
    (why) => say(why, true),
  )
}

const lookAt = (revision: number) =>
  attempt(async () => {
    await look(`at:${revision}`)
    await router.push('/rack')
    return undefined
  })
/** The change that one is about to go back to. */
const backTo = ref(0)
const takeBack = (revision: number) => attempt(() => send('/api/v1/take_back', { revision }))

async function keepNote() {
  const note = { kind: 'note', day: noteDay.value, text: noteText.value.trim() }
  if (await attempt(() => send('/api/v1/changes', { changes: [add(note)] }))) noteText.value = ''
}
const removeNote = (id: string) => attempt(() => send('/api/v1/changes', { changes: [remove({ kind: 'note', id })] }))
</script>

<template>
  <SheetFrame>
    <template #bar>
      <template v-if="!comparing">
        <input v-model="text" type="search" class="field filter" placeholder="containing" aria-label="Only changes containing" />
        <form v-if="!past" class="note" @submit.prevent="keepNote">
          <input v-model="noteDay" type="date" class="field" aria-label="Day of the note" required />
          <input
            v-model="noteText"
            class="field words"
            placeholder="a note by hand: cleaned the filters"
            aria-label="Note by hand"
            maxlength="2000" />
          <v-btn size="small" type="submit" :disabled="!noteText.trim()">Add note</v-btn>
        </form>
      </template>
    </template>
    <BackDialog v-if="backTo" :revision="backTo" @close="backTo = 0" />
    <CompareDays v-if="comparing" />
    <div v-else class="list" data-scroll>
      <p v-if="!byDay.length" class="empty">
        {{ text ? `No change mentions “${text}”.` : 'Nothing has been changed yet. Every change will be listed here, with a way back.' }}
      </p>
      <section v-for="[day, is] in byDay" :key="day" :aria-label="days(day)">
        <h2>{{ days(day) }}</h2>
        <ul>
          <li v-for="n in is.notes" :key="n.id" class="by-hand">
            <span class="figure soft">note</span><span class="label">{{ n.text }}</span
            ><button v-if="!past" class="quiet" @click="removeNote(n.id)">Remove</button>
          </li>
          <li
            v-for="e in is.entries"
            :key="e.revision"
            :class="{ open: opened === e.revision, later: past && e.revision > (lab?.view.revision ?? 0) }"
            :data-entry="e.revision">
            <span class="figure soft">{{ clock(e.at) }}</span>
            <button class="label" :aria-expanded="opened === e.revision" @click="open(e)">
              <span class="number figure">#{{ e.revision }}</span> {{ e.label }}
            </button>
            <span class="does">
              <button class="quiet" @click="lookAt(e.revision)">Look</button>
              <template v-if="!past">
                <button class="quiet" title="Undoes this change alone and keeps what came after it" @click="takeBack(e.revision)">
                  Take back
                </button>
                <button v-if="e.revision < (lab?.revision ?? 0)" class="quiet" @click="backTo = e.revision">Back to here</button>
              </template>
            </span>
            <ul v-if="opened === e.revision" class="edits">
              <li v-for="(d, i) in edits" :key="i">
                <router-link v-if="d.to && !past" :to="d.to" :title="d.where"
                  ><b>{{ d.title }}</b></router-link
                ><b v-else>{{ d.title }}</b
                >{{ d.says }}
              </li>
            </ul>
          </li>
        </ul>
      </section>
      <v-btn v-if="more" variant="text" @click="readEntries(entries.at(-1)?.revision)">Older changes</v-btn>
    </div>
  </SheetFrame>
</template>

<style scoped>
.filter {
  width: 170px;
}
.note {
  display: flex;
  flex: 1;
  gap: 6px;
  align-items: center;
}
.words {
  flex: 1;
  min-width: 160px;
}
.list {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  padding: 0 18px 12px;
}
h2 {
  margin: 14px 0 4px;
}
ul {
  list-style: none;
  max-width: 900px;
}
section > ul > li {
  display: grid;
  grid-template-columns: 52px 1fr auto;
  gap: 0 10px;
  align-items: baseline;
  padding: 4px 10px;
  background: var(--sheet);
  border: 1px solid var(--rule);
  margin-bottom: -1px;
}
.label {
  text-align: left;
  overflow-wrap: anywhere;
}
.number {
  color: var(--soft);
  margin-right: 4px;
}
.by-hand {
  border-left: 3px solid var(--water) !important;
}
.later {
  opacity: 0.55;
}
.does {
  display: flex;
  gap: 10px;
}
.quiet {
  font-size: 13px;
  color: var(--soft);
  text-decoration: underline;
  text-underline-offset: 3px;
  white-space: nowrap;
}
.quiet:hover {
  color: var(--red);
}
.edits {
  grid-column: 2 / -1;
  padding: 4px 0 4px 10px;
  border-left: 2px solid var(--rule);
  font-size: 13px;
}
.edits a {
  color: inherit;
}
.edits b {
  font: 600 13px var(--names);
}
.empty {
  max-width: 480px;
  margin-top: 40px;
}
@media (max-width: 700px) {
  .quiet,
  .label {
    min-height: 44px;
  }
  section > ul > li {
    grid-template-columns: 46px 1fr;
  }
  .does {
    grid-column: 2;
  }
  .note {
    flex-basis: 100%;
    flex-wrap: wrap;
  }
}
</style>
