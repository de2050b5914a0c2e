<script setup lang="ts">
// What the text would change, what could not be read, and what was only kept as
// a remark.
import { computed } from 'vue'
import type { Edit, Mistake, Schemas } from '../../api/client'

const {
  edits,
  mistakes,
  more = 0,
  kept = [],
  since = [],
  clashes = [],
} = defineProps<{
  edits: Edit[]
  mistakes: Mistake[]
  more?: number
  kept?: Schemas['Kept'][]
  since?: Edit[]
  clashes?: Schemas['Clash'][]
}>()
defineEmits<{ go: [mistake: Mistake]; correct: [mistake: Mistake]; help: [] }>()
const signs: Record<Edit['verb'], string> = { added: '+', renamed: '≈', moved: '→', changed: '~', removed: '−' }
const most = 60
const verbs: Edit['verb'][] = ['added', 'renamed', 'moved', 'changed', 'removed']
/** How many of each, where there are too many to see at once. */
const totals = computed(() =>
  edits.length > 5
    ? verbs
        .map((verb) => [edits.filter((e) => e.verb === verb).length, verb] as const)
        .filter(([n]) => n)
        .map((one) => one.join(' '))
        .join(', ')
    : '',
)
/** What of it stays whatever is chosen: what both set is a question. */
const others = computed(() => since.filter((e) => !clashes.some((c) => c.record.id === e.record.id && e.verb === 'changed')))
const unsaid = computed(() => Math.max(0, mistakes.length - most) + more)
</script>

<template>
  <div class="edits" tabindex="0" role="region" aria-label="What applying the text would do" aria-live="polite">
    <p v-if="!edits.length && !mistakes.length && !clashes.length" class="soft">The text matches the lab.</p>
    <p v-if="totals" class="figure">{{ totals }}</p>
    <ul>
      <li v-for="(c, i) in clashes.slice(0, most)" :key="`c${i}`" class="mistake"><i>yours or theirs?</i>{{ c.says }}</li>
      <li v-if="clashes.length > most" class="mistake">and {{ clashes.length - most }} more that others set too</li>
      <li v-for="(m, i) in mistakes.slice(0, most)" :key="`m${i}`" class="mistake">
        <button @click="$emit('go', m)">
          <i>line {{ m.line }}</i
          >{{ m.detail }}
        </button>
        <button v-if="m.nearest" class="fix" @click="$emit('correct', m)">write {{ m.nearest }} <kbd v-if="!i">Ctrl .</kbd></button>
        <button class="fix" @click="$emit('help')">How lines are written</button>
      </li>
      <li v-if="unsaid" class="mistake">and {{ unsaid }} more mistakes</li>
      <li v-for="(e, i) in others.slice(0, most)" :key="`s${i}`" class="soft">
        <i aria-hidden="true">{{ signs[e.verb] }}</i>meanwhile, and kept: <b>{{ e.title }}</b>{{ e.says }}
      </li>
      <li v-if="others.length > most" class="soft">and {{ others.length - most }} more changes of others, all kept</li>
      <li v-for="(k, i) in kept.slice(0, most)" :key="`k${i}`" class="soft">
        <i>line {{ k.line }}</i> {{ k.counts ? k.text : `kept as a remark: “${k.text}”` }}
      </li>
      <li v-if="kept.length > most" class="soft">and {{ kept.length - most }} more remarks</li>
      <li v-for="(e, i) in edits.slice(0, most)" :key="i" :class="e.verb">
        <i aria-hidden="true">{{ signs[e.verb] }}</i><b>{{ e.title }}</b
        >{{ e.says }}
      </li>
      <li v-if="edits.length > most" class="soft">and {{ edits.length - most }} more</li>
    </ul>
  </div>
</template>

<style scoped>
.edits {
  flex: 1;
  min-width: 0;
  max-height: 128px;
  overflow-y: auto;
  font-size: 13px;
}
ul {
  list-style: none;
}
.mistake .fix {
  margin-left: 8px;
  color: var(--water);
  text-decoration: underline;
}
li {
  padding: 1px 0;
}
i {
  display: inline-block;
  min-width: 18px;
  font: 500 13px var(--figures);
}
b {
  font: 600 14px var(--names);
}
.mistake,
.mistake button {
  text-align: left;
  color: var(--red);
}
.mistake i {
  padding-right: 8px;
}
.removed {
  color: var(--red);
}
</style>
