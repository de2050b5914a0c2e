<script setup lang="ts">
// What comes of each line of a file, all of them or those of one verb.
import { computed, ref, watch } from 'vue'
import type { Schemas } from '../api/client'

type Row = Schemas['Row']
const props = defineProps<{ rows: Row[] }>()
const verbs = ['new', 'changed', 'same', 'refused'] as const
const counts = computed(() => verbs.map((verb) => ({ verb, n: props.rows.filter((r) => r.verb === verb).length })).filter((c) => c.n))
const only = ref<Row['verb']>()
const shown = computed(() => (only.value ? props.rows.filter((r) => r.verb === only.value) : props.rows))
/** What cannot be taken is what one has to look at; then what is not as it was. */
watch(
  counts,
  (are) => {
    const has = (verb: Row['verb']) => are.some((c) => c.verb === verb)
    only.value = has('refused') ? 'refused' : undefined
  },
  { immediate: true },
)
</script>

<template>
  <div class="verbs" role="group" aria-label="Lines">
    <button :aria-pressed="!only" @click="only = undefined">
      <b class="figure">{{ rows.length }}</b> lines
    </button>
    <button
      v-for="c in counts"
      :key="c.verb"
      :class="c.verb"
      :aria-pressed="only === c.verb"
      @click="only = only === c.verb ? undefined : c.verb">
      <b class="figure">{{ c.n }}</b> {{ c.verb }}
    </button>
  </div>
  <v-virtual-scroll
    class="rows"
    :items="shown"
    :height="Math.min(shown.length * 46 + 2, 270)"
    tabindex="0"
    role="region"
    aria-label="What comes of each line">
    <template #default="{ item }">
      <p class="row" :class="item.verb">
        <span class="figure">{{ item.line }}</span><i>{{ item.verb }}</i
        ><b>{{ item.title || '–' }}</b
        ><span>{{ item.say }}</span>
      </p>
    </template>
  </v-virtual-scroll>
</template>

<style scoped>
.verbs {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin: 14px 0 6px;
}
.verbs button {
  padding: 4px 10px;
  border: 1px solid var(--rule);
}
.verbs button[aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
}
.rows {
  border-top: 1px solid var(--rule);
}
.row {
  display: grid;
  grid-template-columns: 46px 70px minmax(90px, 160px) 1fr;
  column-gap: 8px;
  align-items: center;
  min-height: 34px;
  padding: 3px 0;
  border-bottom: 1px solid var(--rule);
  line-height: 1.25;
  overflow-wrap: anywhere;
}
.row .figure {
  text-align: right;
  color: var(--soft);
}
.row i {
  font-style: normal;
  color: var(--soft);
}
.row b {
  font: 600 14px var(--names);
}
.row.refused i,
.verbs .refused:not([aria-pressed='true']) {
  color: var(--red);
}
@media (max-width: 700px) {
  .row {
    grid-template-columns: 36px 62px 1fr;
  }
  .row > :last-child {
    grid-column: 2 / -1;
  }
}
</style>
