<script setup lang="ts">
// A picked file: what it says, what loading it would do, and
// loading it, all of it or nothing.
import { computed, ref, shallowRef, watch } from 'vue'
import type { PathOf } from '../api/address'
import { latest } from '../api/latest'
import { post, type Schemas } from '../api/client'
import { kindWords } from '../lab/words'
import { attempt, useLab } from '../lab/useLab'
import EditList from '../sheets/rundown/EditList.vue'
import { kinds, partKinds } from '../card/choices'
import ImportColumns from './ImportColumns.vue'
import ImportRows from './ImportRows.vue'

const emit = defineEmits<{ loaded: []; reading: [on: boolean] }>()
const { lab, send } = useLab()
const found = shallowRef<Schemas['Import']>()
const chosen = shallowRef<{ name: string; ending: string; text: string; base64: boolean }>()
/** How a file of devices is read, as far as it was chosen. */
const columns = shallowRef<string[]>()
const kind = ref('')
/** Those that say for themselves what their columns are. */
const plans = [
  'vlan_plan',
  'address_plan',
  'reservations',
  'outlet_plan',
  'power_table',
  'pool_table',
  'dataset_table',
  'copy_table',
] as const
/** What a CSV file or workbook lists. */
const lists = ref<'devices' | 'parts' | 'cables' | (typeof plans)[number]>('devices')
const wrong = ref('')
/** What is being done, while it is. */
const busy = ref('')

const refused = computed(() => found.value?.rows.filter((r) => r.verb === 'refused').length ?? 0)
const edits = computed(() => found.value?.delta.edits?.length ?? 0)
const listing = computed(() => !!found.value?.columns)
watch(found, (is) => emit('reading', !!is))
/** Without a column for it, what something new is has to be chosen. */
const asksKind = computed(
  () =>
    listing.value &&
    lists.value !== 'cables' &&
    !found.value?.columns?.some((c) => c.field === 'kind') &&
    (!!kind.value || found.value?.rows.some((r) => r.verb === 'new' || r.verb === 'refused')),
)
const kindChoices = computed(() =>
  lists.value === 'parts' ? partKinds : kinds.map((k: Schemas['DeviceKind']) => kindWords(k).toLowerCase()),
)

/** A workbook is not text; so it travels as one. */
function inBase64(file: File): Promise<string> {
  return new Promise((done, failed) => {
    const reader = new FileReader()
    reader.onload = () => done(String(reader.result).replace(/^[^,]*,/, ''))
    reader.onerror = () => failed(reader.error ?? new Error('unreadable'))
    reader.readAsDataURL(file)
  })
}

/** Spec sheets alone are a JSON file too, which says what it is. */
const saysSheets = /"format"\s*:\s*"levelstaff-sheets"/
/** A name that says so; one can say otherwise. */
const aboutParts = /part|spare|drive|disk|memory/i
const aboutCables = /cabl|lead|patch|wiring/i
const aboutVLANs = /vlan/i
const aboutReservations = /reserv|lease|dhcp/i
const aboutAddresses = /address|subnet/i
const aboutOutlets = /outlet/i
const aboutPower = /power|draw|watt/i
const aboutPools = /pool/i
const aboutData = /dataset/i
const aboutCopies = /cop(y|ies)|backup/i
const endingOf = (name: string) => /\.(json|csv|xlsx)$/i.exec(name)?.[1]?.toLowerCase() ?? ''

async function pick(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0]
  forget()
  found.value = undefined
  chosen.value = undefined
  columns.value = undefined
  kind.value = ''
  wrong.value = ''
  if (!file) return
  const ending = endingOf(file.name)
  if (!ending)
    return void (wrong.value =
      `${file.name}: a lab is a .json file, devices, parts or cables are a .csv or .xlsx file. ` + 'A rundown goes onto the Rundown page.')
  busy.value = `Reading ${file.name}`
  try {
    // Read as UTF-8 and nothing else: letters that come out wrong are worse than a refusal.
    const base64 = ending === 'xlsx'
    const about = [
      ['vlan_plan', aboutVLANs],
      ['reservations', aboutReservations],
      ['address_plan', aboutAddresses],
      ['outlet_plan', aboutOutlets],
      ['power_table', aboutPower],
      ['pool_table', aboutPools],
      ['dataset_table', aboutData],
      ['copy_table', aboutCopies],
      ['cables', aboutCables],
      ['parts', aboutParts],
    ] as const
    lists.value = about.find(([, words]) => words.test(file.name))?.[0] ?? 'devices'
    const text = base64 ? await inBase64(file) : new TextDecoder('utf-8', { fatal: true }).decode(await file.arrayBuffer())
    chosen.value = { name: file.name, ending, text, base64 }
    await check()
  } catch (e) {
    if (!(e instanceof TypeError)) throw e
    wrong.value = `${file.name} is not UTF-8, so letters such as é would come out wrong. Save it as CSV in UTF-8.`
  } finally {
    busy.value = ''
  }
}

type Loaded = PathOf<'post'> extends infer P ? (P extends `/api/v1/files/${infer Name}/check` ? Name : never) : never
/** Which of the server's files it is. */
const path = computed<Loaded>(() => {
  const file = chosen.value
  if (file?.ending === 'json') return saysSheets.test(file.text) ? 'sheets.json' : 'lab.json'
  return `${lists.value}.${file?.ending === 'xlsx' ? 'xlsx' : 'csv'}`
})

/** The file and how it is taken, as the server wants it. */
function taking() {
  const file = chosen.value
  const listed =
    file?.ending === 'json' || plans.some((p) => p === lists.value)
      ? {}
      : { guess: true, columns: columns.value, kind: kind.value || undefined }
  return { text: file?.text ?? '', base64: file?.base64, ...listed }
}

const { ask, forget } = latest()
/** Asks what loading would do; only the answer to the latest question counts. */
async function check() {
  busy.value ||= 'Checking what it would change'
  wrong.value = ''
  const last = await ask(
    () => post(`/api/v1/files/${path.value}/check`, { base_revision: lab.value?.revision ?? 0, ...taking() }),
    (answer) => (found.value = answer),
    (why) => (wrong.value = why),
  )
  if (last) busy.value = ''
}

/** It lists something else than it was taken for. */
function relist() {
  columns.value = undefined
  kind.value = ''
  void check()
}

function take(next: string[]) {
  columns.value = next
  void check()
}

async function load() {
  busy.value = `Loading ${edits.value} changes`
  if (await attempt(() => send(`/api/v1/files/${path.value}`, taking()))) emit('loaded')
  busy.value = ''
}
</script>

<template>
  <p class="soft">
    A lab’s JSON file replaces the lab, one of spec sheets adds to them; a CSV file or a workbook adds and changes devices, parts, cables or
    what ports carry, all of its lines or none. You see what it does first, and can undo it.
  </p>
  <input type="file" accept=".json,.csv,.xlsx" aria-label="File to load" :disabled="!!busy" @change="pick" />
  <div v-if="busy" class="busy" role="status">
    <v-progress-linear indeterminate height="3" aria-hidden="true" />
    {{ busy }}…
  </div>
  <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
  <template v-if="found">
    <template v-if="chosen && chosen.ending !== 'json'">
      <label class="kind">
        It lists
        <select v-model="lists" class="field" @change="relist">
          <option value="devices">devices</option>
          <option value="parts">parts</option>
          <option value="cables">cables</option>
          <option value="vlan_plan">VLANs by port</option>
          <option value="address_plan">addresses</option>
          <option value="reservations">reserved addresses</option>
          <option value="outlet_plan">outlets</option>
          <option value="power_table">what things draw</option>
          <option value="pool_table">pools</option>
          <option value="dataset_table">datasets</option>
          <option value="copy_table">copies of datasets</option>
        </select>
      </label>
      <ImportColumns v-if="listing" :columns="found.columns ?? []" :targets="found.targets ?? []" @take="take" />
      <label v-if="asksKind" class="kind">
        What is new in it is a
        <select v-model="kind" class="field" @change="check">
          <option value="">not said</option>
          <option v-for="k in kindChoices" :key="k" :value="k">{{ k }}</option>
        </select>
      </label>
      <ImportRows v-if="found.rows.length" :rows="found.rows" />
    </template>
    <p v-if="!edits && !refused">It matches the lab; there is nothing to change.</p>
    <EditList v-else-if="!found.rows.length" :edits="found.delta.edits ?? []" :mistakes="[]" />
    <p v-if="refused" class="wrong">
      {{ refused === 1 ? 'One line is refused' : `${refused} lines are refused` }}, so none is loaded. Fix
      {{ refused === 1 ? 'it' : 'them' }} in the file and pick it again, or read the columns as something else.
    </p>
    <v-btn v-else-if="edits" class="load" :disabled="!!busy" @click="load"
      >Load {{ chosen?.name }}: {{ edits }} change{{ edits === 1 ? '' : 's' }}</v-btn
    >
  </template>
</template>

<style scoped>
input {
  margin-top: 8px;
}
.busy {
  margin-top: 8px;
  color: var(--soft);
  animation: late 0s linear 1s both; /* what is quick needs no bar */
}
@keyframes late {
  from {
    visibility: hidden;
  }
  to {
    visibility: visible;
  }
}
.wrong {
  margin-top: 8px;
  color: var(--red);
}
.kind {
  display: block;
  margin-top: 12px;
}
.load {
  margin-top: 14px;
}
</style>
