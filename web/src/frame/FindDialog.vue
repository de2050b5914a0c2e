<script setup lang="ts">
// Finds anything by name, purpose, note or place. Each letter asks again; the
// latest answer counts.
import { storeToRefs } from 'pinia'
import { nextTick, onMounted, ref, watch } from 'vue'
import { api } from '../api/address'
import { latest } from '../api/latest'
import { get, type Schemas } from '../api/client'
import { useShow } from '../work/useShow'
import { useWork } from '../work/work'

const work = useWork()
const { show } = useShow()
const { query } = storeToRefs(work)
const hits = ref<Schemas['Hit'][]>([])
const at = ref(0)
const asked = ref('')

const { ask } = latest()
const look = (q: string) =>
  ask(
    async () => (q.trim() ? (await get(api('/api/v1/find', { q }))).hits : []),
    (found) => {
      hits.value = found
      asked.value = q.trim()
      at.value = 0
    },
  )
watch(query, look, { immediate: true })

// The dialog takes the focus itself when it opens, and after that it is the field's.
onMounted(async () => {
  await nextTick()
  requestAnimationFrame(() => document.querySelector<HTMLInputElement>('.find input')?.focus())
})

function go(hit: Schemas['Hit'] | undefined) {
  if (!hit) return
  work.dialog = ''
  void show(hit.record)
}

function along(by: number) {
  at.value = Math.max(0, Math.min(hits.value.length - 1, at.value + by))
  document.getElementById(`hit-${at.value}`)?.scrollIntoView({ block: 'nearest' })
}
</script>

<template>
  <v-dialog aria-label="Find" :model-value="true" max-width="560" class="find" @update:model-value="work.dialog = ''">
    <v-card border>
      <input
        v-model="query"
        autofocus
        role="combobox"
        aria-label="Find"
        aria-controls="hits"
        :aria-expanded="hits.length > 0"
        :aria-activedescendant="hits.length ? `hit-${at}` : undefined"
        autocomplete="off"
        spellcheck="false"
        placeholder="a name, a fact such as 8TB hdd, a note, a place"
        @keydown.down.prevent="along(1)"
        @keydown.up.prevent="along(-1)"
        @keydown.enter.prevent="go(hits[at])" />
      <ul v-if="hits.length" id="hits" role="listbox" aria-label="Found">
        <li
          v-for="(h, i) in hits"
          :id="`hit-${i}`"
          :key="h.record.id"
          role="option"
          :aria-selected="i === at"
          :class="{ at: i === at }"
          @click="go(h)"
          @pointermove="at = i">
          <b>{{ h.record.title }}</b> <span class="soft">{{ h.kind }}</span><span class="where figure">{{ h.record.where }}</span>
          <small v-if="h.said">{{ h.said }}</small>
        </li>
      </ul>
      <p v-else-if="asked" class="none soft">Nothing matches “{{ asked }}”.</p>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.find :deep(.v-overlay__content) {
  align-self: flex-start;
  margin-top: 10vh;
}
input {
  width: 100%;
  padding: 13px 16px;
  font: 400 17px var(--sentences);
  color: var(--ink);
  background: none;
  border: 0;
  outline: none;
}
ul {
  list-style: none;
  max-height: 56vh;
  overflow-y: auto;
  border-top: 1px solid var(--rule);
}
li {
  display: grid;
  grid-template-columns: auto auto 1fr;
  gap: 0 9px;
  align-items: baseline;
  padding: 6px 16px;
  cursor: pointer;
}
li.at {
  background: var(--strip);
  box-shadow: inset 3px 0 var(--red);
}
b {
  font: 600 15px var(--names);
}
.soft {
  font-size: 13px;
}
.where {
  text-align: right;
}
small {
  grid-column: 1 / -1;
  font-size: 13px;
  color: var(--soft);
}
.none {
  padding: 10px 16px 14px;
  border-top: 1px solid var(--rule);
}
</style>
