<script setup lang="ts">
// The menu of the lab: which one is looked at, its settings, files, access,
// the keys, the colours.
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { useTheme } from 'vuetify'
import { attempt, look, useLab } from '../lab/useLab'
import { today } from '../lab/words'
import { themeKey } from '../theme/vuetify'
import { useDrafts } from '../work/useDrafts'
import { useWork, type Dialog } from '../work/work'

const open = defineModel<boolean>({ required: true })
const work = useWork()
const theme = useTheme()
const router = useRouter()
const { lab } = useLab()
const { drafts, chosenId, choose, begin } = useDrafts()
const looks = [
  { value: 'system', text: 'Follow the system' },
  { value: 'light', text: 'Light' },
  { value: 'dark', text: 'Dark' },
]
const dialogs: { dialog: Dialog; title: string; key?: string }[] = [
  { dialog: 'settings', title: 'Lab settings' },
  { dialog: 'files', title: 'Import and export' },
  { dialog: 'door', title: 'Access' },
  { dialog: 'notation', title: 'How lines are written' },
  { dialog: 'keys', title: 'Keys', key: '?' },
]
const chosen = ref(localStorage.getItem(themeKey) ?? 'system')

function paint(value: string) {
  chosen.value = value
  localStorage.setItem(themeKey, value)
  theme.change(value)
}

async function beginDraft() {
  if (await begin()) void router.push('/drafts')
}

const asItWas = (event: Event) => {
  const day = (event.target as HTMLInputElement).value
  if (day < '1970') return // while its year is being typed a date is of the year 2, 20 or 202
  open.value = false
  void attempt(async () => void (await look(`on:${day}`)))
}
</script>

<template>
  <v-menu v-model="open" target="#lab-menu" location="bottom end" :close-on-content-click="false">
    <v-list aria-label="The lab" min-width="230">
      <v-list-item title="As built" :active="lab?.view.kind === 'built'" @click="((open = false), choose(''))" />
      <v-list-item
        v-for="d in drafts"
        :key="d.id"
        :title="`Draft: ${d.name}`"
        :active="d.id === chosenId"
        @click="((open = false), choose(d.id))" />
      <v-list-item title="Start a draft" @click="((open = false), beginDraft())" />
      <li class="day">
        <label for="as-it-was">As it was on</label>
        <input id="as-it-was" type="date" :max="today()" :value="lab?.view.on" @change="asItWas" @keydown.stop />
      </li>
      <v-divider />
      <v-list-item
        v-for="d in dialogs"
        :key="d.dialog"
        :title="d.title"
        :subtitle="d.key"
        @click="((open = false), (work.dialog = d.dialog))" />
      <v-divider />
      <v-list-item
        v-for="l in looks"
        :key="l.value"
        :title="l.text"
        :active="chosen === l.value"
        :aria-label="`Colours: ${l.text}`"
        @click="paint(l.value)">
        <template #prepend
          ><span class="tick" aria-hidden="true">{{ chosen === l.value ? '✓' : '' }}</span></template
        >
      </v-list-item>
    </v-list>
  </v-menu>
</template>

<style scoped>
.tick {
  width: 20px;
}
.day {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 10px;
  padding: 5px 16px;
  font-size: 14px;
  list-style: none;
}
input {
  font: 400 13px var(--figures);
  color: var(--ink);
  background: var(--paper);
  border: 1px solid var(--rule);
  border-radius: 3px;
  padding: 2px 5px;
}
</style>
