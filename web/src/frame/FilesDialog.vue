<script setup lang="ts">
// The lab as files: out in open formats, and in, looked at before it is done.
import { computed, ref, shallowRef } from 'vue'
import { post, Refused, view, type Schemas } from '../api/client'
import { attempt, useLab } from '../lab/useLab'
import { useWork } from '../work/work'
import EditList from '../sheets/rundown/EditList.vue'

const work = useWork()
const { lab, send } = useLab()
const found = shallowRef<Schemas['Import']>()
const chosen = ref<{ name: string; path: string; text: string; base64: boolean }>()
const wrong = ref('')
const base = computed(() => lab.value?.revision ?? 0)
/** Serial numbers, addresses and what else is private stay out of the files. */
const share = ref(false)
const query = computed(() => `?share=${share.value}${view.value ? `&view=${encodeURIComponent(view.value)}` : ''}`)
const out = computed(() => [
  { href: `/api/v1/files/lab.json${query.value}`, name: 'lab.json', what: 'all of it, plans and notes too', saveAs: undefined },
  { href: `/api/v1/files/devices.csv${query.value}`, name: 'devices.csv', what: 'a line a device, for a spreadsheet', saveAs: undefined },
  { href: `/api/v1/files/devices.xlsx${query.value}`, name: 'devices.xlsx', what: 'the same as a workbook', saveAs: undefined },
  { href: `/api/v1/rundown${query.value}`, name: 'lab.rundown', what: 'plain text, top to bottom', saveAs: 'lab.rundown' },
  { href: '/api/v1/files/backup.db', name: 'backup', what: 'a copy of the file, with the logbook, for levelstaff restore', saveAs: undefined },
  { href: '/api/v1/files/lab.schema.json', name: 'lab.schema.json', what: 'what lab.json may say', saveAs: 'lab.schema.json' },
])
const refused = computed(() => found.value?.rows.filter((r) => r.verb === 'refused') ?? [])
const counts = computed(() => (['new', 'changed', 'same', 'refused'] as const).map((verb) => ({ verb, n: found.value?.rows.filter((r) => r.verb === verb).length ?? 0 })).filter((c) => c.n))

/** A workbook is not text; so it travels as one. */
function inBase64(file: File): Promise<string> {
  return new Promise((done, failed) => {
    const reader = new FileReader()
    reader.onload = () => done(String(reader.result).replace(/^[^,]*,/, ''))
    reader.onerror = () => failed(reader.error ?? new Error('unreadable'))
    reader.readAsDataURL(file)
  })
}

async function pick(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0]
  found.value = undefined
  wrong.value = ''
  chosen.value = undefined
  if (!file) return
  const path = /\.json$/i.test(file.name) ? 'lab.json' : /\.csv$/i.test(file.name) ? 'devices.csv' : /\.xlsx$/i.test(file.name) ? 'devices.xlsx' : ''
  if (!path) return void (wrong.value = `${file.name}: a lab is a .json file, devices a .csv or .xlsx file. A rundown goes onto the Rundown page.`)
  try {
    // Read as UTF-8 and nothing else: letters that come out wrong are worse than a refusal.
    const base64 = path === 'devices.xlsx'
    const text = base64 ? await inBase64(file) : new TextDecoder('utf-8', { fatal: true }).decode(await file.arrayBuffer())
    found.value = await post<Schemas['Import']>(`/api/v1/files/${path}/check`, { base_revision: base.value, text, base64 })
    chosen.value = { name: file.name, path, text, base64 }
  } catch (e) {
    if (e instanceof TypeError) wrong.value = `${file.name} is not UTF-8, so letters such as é would come out wrong. Save it as CSV in UTF-8.`
    else if (e instanceof Refused) wrong.value = e.message
    else throw e
  }
}

async function load() {
  const file = chosen.value
  if (file && (await attempt(() => send(`/api/v1/files/${file.path}`, { text: file.text, base64: file.base64 })))) work.dialog = ''
}
</script>

<template>
  <v-dialog aria-label="Files in and out" :model-value="true" max-width="640" @update:model-value="work.dialog = ''">
    <v-card border class="box">
      <h2>Files out</h2>
      <ul class="out">
        <li v-for="o in out" :key="o.name"><a :href="o.href" :download="o.saveAs ?? ''">{{ o.name }}</a> <span class="soft">{{ o.what }}</span></li>
      </ul>
      <v-checkbox v-model="share" label="To show to others: without serial numbers, addresses and what else is private" density="compact" hide-details />
      <h2>A file in</h2>
      <p v-if="lab?.view.kind === 'past'" class="soft">Go back to the lab as built first.</p>
      <template v-else>
        <p class="soft">A JSON file replaces the lab; a CSV file or a workbook adds and changes devices, all of its lines or none. You see what it does first, and can undo it.</p>
        <input type="file" accept=".json,.csv,.xlsx" aria-label="File to load" @change="pick" />
        <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
        <template v-if="found">
          <p v-if="counts.length" class="counts">
            <span v-for="c in counts" :key="c.verb"><b>{{ c.n }}</b> {{ c.verb }}</span>
          </p>
          <ul v-if="refused.length" class="refused" aria-label="Refused lines">
            <li v-for="r in refused" :key="r.line"><span class="figure">line {{ r.line }}</span> <b>{{ r.title }}</b> {{ r.say }}</li>
          </ul>
          <template v-else>
            <p v-if="!found.delta.edits?.length">It says just what the lab says.</p>
            <div v-else class="edits"><EditList :edits="found.delta.edits" :mistakes="[]" /></div>
          </template>
        </template>
      </template>
      <div class="buttons">
        <v-btn v-if="found?.delta.edits?.length && !refused.length" @click="load">Load {{ chosen?.name }}: {{ found.delta.edits.length }} changes</v-btn>
        <v-btn variant="text" @click="work.dialog = ''">Close</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.box {
  padding: 18px;
}
h2 + * {
  margin-top: 4px;
}
.out {
  list-style: none;
  margin-bottom: 16px;
}
.out li {
  padding: 3px 0;
}
a {
  display: inline-block;
  min-width: 130px;
  font: 500 14px var(--figures);
  color: var(--water);
}
input {
  margin-top: 8px;
}
.wrong {
  margin-top: 8px;
  color: var(--red);
}
.counts {
  display: flex;
  gap: 16px;
  margin-top: 10px;
}
.refused,
.edits {
  max-height: 34vh;
  overflow-y: auto;
  margin-top: 8px;
  list-style: none;
}
.refused li {
  padding: 4px 0;
  border-bottom: 1px solid var(--rule);
}
.refused .figure {
  color: var(--red);
}
.buttons {
  display: flex;
  gap: 8px;
  margin-top: 14px;
}
</style>
