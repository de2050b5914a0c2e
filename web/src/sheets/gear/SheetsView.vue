<script setup lang="ts">
// Spec sheets: those of the lab, made, copied and edited here, and those that
// come with the program, to copy.
import { computed, ref } from 'vue'
import { attempt, useLab } from '../../lab/useLab'
import { hasWords, useSheets, type Sheet } from '../../lab/useSheets'
import { kindWords } from '../../lab/words'
import { useWork } from '../../work/work'
import SheetPane from './SheetPane.vue'

const { lab, send, add } = useLab()
const work = useWork()
const { own, generic, isOwn } = useSheets()

const words = ref('')
const chosen = ref('')
const fixed = computed(() => lab.value?.view.kind === 'past')
const lists = computed(() => [
  { name: 'In this lab', sheets: own.value.filter((s) => hasWords(s, words.value)) },
  { name: 'Included with Levelstaff', sheets: generic.value.filter((s) => hasWords(s, words.value)) },
])
const shown = computed(() => [...own.value, ...generic.value].find((s) => s.id === chosen.value) ?? lists.value.flatMap((l) => l.sheets)[0])
const mine = computed(() => !!shown.value && isOwn(shown.value))
/** How many things have each sheet. */
const having = computed(() => {
  const counts = new Map<string, number>()
  for (const d of lab.value?.devices.values() ?? []) if (d.sheet_id) counts.set(d.sheet_id, (counts.get(d.sheet_id) ?? 0) + 1)
  return counts
})

/** A name that no sheet of the lab has yet. */
function free(name: string): string {
  const taken = new Set(own.value.map((s) => s.name.toLowerCase()))
  let is = name
  for (let n = 2; taken.has(is.toLowerCase()); n++) is = `${name} ${n}`
  return is
}
/** Without an id it gets one of its own. */
async function make(sheet: Omit<Sheet, 'id'> & { id?: undefined }) {
  await attempt(async () => {
    const delta = await send('/api/v1/changes', { changes: [add({ kind: 'spec_sheet', ...sheet })] })
    chosen.value = delta.spec_sheets?.[0]?.id ?? ''
    return delta
  })
}
function copy(sheet: Sheet) {
  return make({ ...sheet, id: undefined, name: free(isOwn(sheet) ? `${sheet.name} copy` : sheet.name) })
}
</script>

<template>
  <div class="sheets">
    <nav aria-label="Spec sheets">
      <div class="head">
        <input
          v-model="words"
          type="search"
          class="field"
          placeholder="make, model or kind"
          aria-label="Find a spec sheet"
          spellcheck="false" />
        <v-btn v-if="!fixed" size="small" @click="make({ name: free('New sheet'), device_kind: 'other' })">New sheet</v-btn>
      </div>
      <template v-for="l in lists" :key="l.name">
        <h2>
          {{ l.name }} <span class="figure soft">{{ l.sheets.length }}</span>
        </h2>
        <ul>
          <li v-for="s in l.sheets" :key="s.id">
            <button :aria-pressed="shown?.id === s.id" @click="chosen = s.id">
              <b>{{ s.name }}</b><span class="soft">{{
                having.get(s.id) ? `${having.get(s.id)} thing${having.get(s.id) === 1 ? '' : 's'}` : kindWords(s.device_kind)
              }}</span>
            </button>
          </li>
        </ul>
      </template>
      <p class="files">
        <a href="/api/v1/files/sheets.json" download>Export this lab’s sheets</a
        ><button v-if="!fixed" @click="work.dialog = 'files'">Import sheets</button>
      </p>
    </nav>
    <SheetPane v-if="shown" :key="shown.id" :sheet="shown" :mine="mine && !fixed" :fixed="fixed" @copy="copy(shown)" @gone="chosen = ''" />
    <p v-else class="soft">No spec sheet by that name.</p>
  </div>
</template>

<style scoped>
.sheets {
  display: grid;
  grid-template-columns: minmax(250px, 340px) minmax(0, 1fr);
  flex: 1;
  min-height: 0;
  border-top: 1px solid var(--rule);
}
nav {
  min-height: 0;
  padding: 12px 12px 12px 18px;
  overflow-y: auto;
  border-right: 1px solid var(--rule);
  background: var(--paper);
}
.head {
  display: flex;
  gap: 8px;
}
input {
  flex: 1;
  min-width: 0;
}
h2 {
  margin: 16px 0 2px;
  font-size: 14px;
  color: var(--soft);
}
ul {
  list-style: none;
}
li button {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  width: 100%;
  padding: 4px 6px;
  text-align: left;
  border-bottom: 1px solid var(--rule);
}
li b {
  font: 600 14px var(--names);
}
li span {
  flex: none;
  font-size: 13px;
}
li [aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
}
li [aria-pressed='true'] span {
  color: inherit;
}
.files {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  margin-top: 16px;
}
.files a,
.files button {
  color: var(--water);
  text-decoration: underline;
}
@media (max-width: 700px) {
  .sheets {
    display: block;
    overflow-y: auto;
  }
  nav {
    max-height: 42vh;
    border-right: 0;
    border-bottom: 1px solid var(--rule);
  }
  li button {
    min-height: 44px;
    align-items: center;
  }
}
</style>
