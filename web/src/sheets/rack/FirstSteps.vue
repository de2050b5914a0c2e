<script setup lang="ts">
// What an empty lab says: what belongs here, and the first line to type.
import { useRouter } from 'vue-router'
import { attempt, useLab } from '../../lab/useLab'
import { useWork } from '../../work/work'

const work = useWork()
const router = useRouter()
const { send } = useLab()
const lines = [
  { line: 'rack "Pantry": 24U, 19in', what: 'A rack: its name, its height, its width.' },
  { line: 'place "Loft"', what: 'Somewhere else in the house.' },
]

const tryIt = () => attempt(() => send('/api/v1/trial', {}))

function begin(line: string) {
  work.line = line
  document.getElementById('quick-line')?.focus()
}
</script>

<template>
  <section class="first">
    <h2 class="title">Nothing documented yet</h2>
    <p>Stand in front of the rack and work from top to bottom, one line per device. Start with the rack itself:</p>
    <button v-for="l in lines" :key="l.line" class="step" @click="begin(l.line)">
      <code>{{ l.line }}</code>
      <span class="soft">{{ l.what }}</span>
    </button>
    <p>
      New to it? <button class="try" @click="tryIt">Try things in a made-up rack</button>: five lines write themselves there, and one click
      throws it away.
    </p>
    <p>
      Or type everything as one text on the <a href="/rundown" @click.prevent="router.push('/rundown')">rundown page</a> and watch it being
      drawn.
    </p>
  </section>
</template>

<style scoped>
.first {
  max-width: 520px;
  margin: 60px 32px;
  padding: 22px;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
  display: flex;
  flex-direction: column;
  gap: 12px;
}
.title {
  font-size: 20px !important;
}
.step {
  display: flex;
  flex-direction: column;
  gap: 2px;
  text-align: left;
  padding: 8px 12px;
  border: 1px dashed var(--soft);
  border-radius: 3px;
}
.step:hover {
  border-color: var(--red);
}
code {
  font: 400 14px var(--figures);
}
a,
.try {
  color: var(--water);
  text-decoration: underline;
}
</style>
