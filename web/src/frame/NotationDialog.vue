<script setup lang="ts">
// How lines are written, by examples; pressing one puts it into the quick line.
import { nextTick, onMounted, shallowRef } from 'vue'
import { api } from '../api/address'
import { get, type Schemas } from '../api/client'
import { attempt } from '../lab/useLab'
import { useWork } from '../work/work'

const work = useWork()
const chapters = shallowRef<Schemas['Chapter'][]>([])
onMounted(() =>
  attempt(async () => {
    chapters.value = await get(api('/api/v1/notation'))
    return undefined
  }),
)

async function take(line: string) {
  work.dialog = ''
  work.line = line
  await nextTick()
  document.getElementById('quick-line')?.focus()
}
</script>

<template>
  <v-dialog
    aria-label="How lines are written"
    :model-value="work.dialog === 'notation'"
    @update:model-value="work.dialog = ''"
    max-width="760"
    scrollable>
    <v-card border class="box">
      <h2>How lines are written</h2>
      <p class="soft">One line for each thing. Press one to take it into the quick line and make it yours.</p>
      <v-card-text class="chapters">
        <section v-for="c in chapters" :key="c.title">
          <h3>{{ c.title }}</h3>
          <p>{{ c.says }}</p>
          <ul>
            <li v-for="line in c.lines" :key="line">
              <button type="button" class="line" @click="take(line)">
                <code>{{ line }}</code>
              </button>
            </li>
          </ul>
        </section>
      </v-card-text>
      <v-btn class="done" autofocus @click="work.dialog = ''">Close</v-btn>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.box {
  padding: 18px;
}
.chapters {
  letter-spacing: normal;
  padding: 0;
}
section {
  margin-top: 14px;
}
section p {
  font-size: 13px;
  color: var(--soft);
}
ul {
  list-style: none;
  margin-top: 4px;
  border-left: 2px solid var(--rule);
}
.line {
  width: 100%;
  padding: 3px 10px;
  text-align: left;
  background: none;
  border: 0;
  color: var(--ink);
  cursor: pointer;
}
.line:hover,
.line:focus-visible {
  background: var(--strip);
}
code {
  font: 400 13px var(--figures);
  white-space: pre-wrap;
}
.done {
  align-self: flex-start;
  margin-top: 16px;
}
@media (max-width: 700px) {
  .line {
    min-height: 44px;
  }
}
</style>
