<script setup lang="ts">
// The card of any record: what it is called and where it is, what is to be said
// of it first, its facts in groups, what hangs on it. What a kind has more of
// stands in the slots: under the head, after a group, at the end.
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import type { Key, Schemas } from '../api/client'
import { useWork } from '../work/work'
import FactList from './FactList.vue'
import FactRow from './FactRow.vue'
import HistoryList from './HistoryList.vue'
import NotesField from './NotesField.vue'
import { groupOf } from './useCard'

const props = defineProps<{
  record: Key
  card?: Schemas['Card']
  /** Facts that have a place of their own on this card. */
  apart?: string[]
  /** Facts that a drawing on this card shows, said again when all are asked for. */
  drawn?: string[]
  /** Facts that are asked for even where nothing depends on them. */
  asked?: string[]
  /** Groups whose heading stands without a fact. */
  headed?: string[]
  /** It cannot be changed. */
  still?: boolean
}>()
const work = useWork()
const router = useRouter()
const all = ref(false)
const first = computed(() => groupOf(props.card, ''))
const nameFact = computed(() => first.value.find((f) => f.field === 'name'))
const notes = computed(() => first.value.find((f) => f.field === 'notes'))
const apart = computed(() => new Set(['name', 'notes', ...(props.apart ?? []), ...(all.value ? [] : (props.drawn ?? []))]))
const isShown = (f: Schemas['Known'], basic: boolean) =>
  !!f.text || !!f.gap || f.from === 'never' || (!props.still && (all.value || !!props.asked?.includes(f.field) || (basic && !f.maybe)))
const groups = computed(() =>
  (props.card?.groups ?? [])
    .map((g) => ({
      title: g.title ?? '',
      facts: g.facts.filter((f) => !apart.value.has(f.field) && isShown(f, !g.title)),
    }))
    .filter((g) => g.facts.length || props.headed?.includes(g.title)),
)
/** What is private is shown when it is asked for: one may not be alone. */
const unfolded = ref(false)
const more = computed(() =>
  (props.card?.groups ?? []).some((g) => g.facts.some((f) => !f.text && !apart.value.has(f.field) && (g.title || f.maybe))),
)

function show(thing: Schemas['Thing']) {
  if (thing.kind === 'device') work.pick(thing.id)
  else void router.push(thing.to)
}
</script>

<template>
  <div v-if="card" class="record">
    <FactRow class="name" :record="record" field="name" label="Name" :text="nameFact?.text" gap="name" :still="still" />
    <p class="sub">{{ [card.what, card.record.where].filter(Boolean).join(' · ') }}</p>
    <slot name="head" />
    <p v-for="s in card.sentences" :key="s" class="say">{{ s }}</p>
    <div class="groups">
      <section v-for="(g, i) in groups" :key="g.title" :data-group="g.title">
        <h2 v-if="g.title === 'Private'">
          <button class="fold" :aria-expanded="unfolded" @click="unfolded = !unfolded">
            {{ unfolded ? '▾' : '▸' }} {{ g.facts.length }} private {{ g.facts.length === 1 ? 'fact' : 'facts' }}
          </button>
        </h2>
        <h2 v-else-if="g.title || i">{{ g.title || 'About it' }}</h2>
        <FactList v-if="g.title !== 'Private' || unfolded" :record="record" :facts="g.facts" :still="still" />
        <slot :name="g.title || 'first'" />
      </section>
    </div>
    <slot />
    <template v-if="card.things.length">
      <h2>{{ card.hangs }}</h2>
      <ul class="things">
        <li v-for="t in card.things" :key="t.id">
          <button @click="show(t)">
            <b>{{ t.title }}</b><span class="soft">{{ t.what }}</span>
          </button>
        </li>
      </ul>
    </template>
    <slot name="end" />
    <template v-if="notes && !still">
      <h2>Notes</h2>
      <NotesField :record="record" :text="notes.text" />
    </template>
    <HistoryList v-if="!still" :record="record" />
    <div class="buttons">
      <slot name="buttons" />
      <v-btn v-if="more && !still" @click="all = !all">{{ all ? 'Fewer facts' : 'All facts' }}</v-btn>
      <slot name="remove" />
    </div>
  </div>
</template>

<style scoped>
.record {
  display: flow-root;
}
.fold {
  color: inherit;
}
.say {
  margin-top: 6px;
  padding-left: 8px;
  border-left: 3px solid var(--red);
}
</style>
