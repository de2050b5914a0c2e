<script setup lang="ts">
// One fact, edited where it stands: Enter keeps it, Escape leaves it. What is
// typed goes to the server as it is; a mistake stands beside the field.
import { defineAsyncComponent, nextTick, ref } from 'vue'
import type { Key } from '../api/client'
import { useLab } from '../lab/useLab'
import { useEntry } from './useEntry'

const props = defineProps<{
  record: Key
  field: string
  label: string
  /** What is known, as it is shown; undefined while it is not. */
  text?: string
  /** What stands in its place while it is unknown. */
  gap?: string
  /** What the field starts with, where that is not the text shown, '' for nothing. */
  typed?: string
  choices?: { value: string; title: string }[]
  long?: boolean
  mono?: boolean
  hint?: string
  /** A word beside the value: where it is from. */
  aside?: string
  /** Where the value leads, in a tab of its own. */
  link?: string
  /** How what was typed is kept, where it is no fact of the record by itself. */
  keeps?: (text: string, base: number) => Promise<unknown>
  /** It cannot be changed. */
  still?: boolean
}>()

const emit = defineEmits<{ opened: []; left: [] }>()

/** Not needed to draw the card, and larger than all of it. */
const FactField = defineAsyncComponent(() => import('./FactField.vue'))

const { send } = useLab()
const editing = ref(false)
const button = ref<HTMLButtonElement>()
const row = ref<HTMLElement>()
const { entry, wrong, start, keep } = useEntry({
  now: () => props.typed ?? props.text ?? '',
  shown: () => props.text,
  open: () => editing.value,
  keep: (text, base) =>
    props.keeps
      ? props.keeps(text.trim(), base)
      : send('/api/v1/facts', { base_revision: base, record: props.record, field: props.field, text }),
  done: leave,
})

function edit() {
  start()
  editing.value = true
  emit('opened')
}

async function leave() {
  // Whoever has gone on to another field meanwhile keeps the focus there.
  const at = document.activeElement
  const here = at === document.body || !!row.value?.contains(at)
  editing.value = false
  wrong.value = ''
  emit('left')
  await nextTick()
  if (here) button.value?.focus()
}

defineExpose({ edit })

function enter(event: KeyboardEvent) {
  if (props.long && event.shiftKey) return
  event.preventDefault()
  void keep()
}
function choose(value: string) {
  entry.value = value
  void keep()
}
</script>

<template>
  <div ref="row" class="row" :class="{ long }" :data-fact="field">
    <span class="term">{{ label }}</span>
    <div class="fact">
      <span v-if="still" class="value" :class="{ figure: mono }">{{ text ?? '?' }}</span>
      <button
        v-else-if="!editing"
        ref="button"
        class="value"
        :class="{ figure: mono }"
        :aria-label="`${label}: ${text ?? 'unknown'}, edit`"
        @click="edit">
        <template v-if="text">{{ text }}</template>
        <span v-else class="unknown">? {{ gap }}</span>
      </button>
      <FactField
        v-else
        v-model="entry"
        :label="label"
        :wrong="wrong"
        :choices="choices"
        :long="long"
        @choose="choose"
        @enter="enter"
        @keep="keep"
        @leave="leave" />
      <a v-if="link && !editing" class="aside" :href="link" target="_blank" rel="noopener noreferrer" :aria-label="`Open ${link}`">open</a>
      <span v-else-if="aside && !editing" class="aside">{{ aside }}</span>
      <small v-if="hint && !editing" class="soft">{{ hint }}</small>
    </div>
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 96px 1fr;
  column-gap: 6px;
  align-items: start;
  border-bottom: 1px solid var(--rule);
  min-height: 29px;
}
.row.long {
  grid-template-columns: 1fr;
  border-bottom: 0;
}
.term {
  padding-top: 5px;
  font-size: 13px;
  line-height: 18px;
  color: var(--soft);
}
.fact {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  column-gap: 8px;
  min-width: 0;
}
.fact > :not(.value, .aside) {
  grid-column: 1 / -1;
}
.value {
  padding: 3px 0;
  max-width: 100%;
  text-align: left;
  overflow-wrap: anywhere;
  white-space: pre-line;
  cursor: text;
}
.value:hover {
  text-decoration: underline dotted var(--soft);
  text-underline-offset: 4px;
}
.value:hover .unknown {
  border-style: solid;
}
.aside {
  font: 400 12px/28px var(--names);
  color: var(--soft);
}
small {
  display: block;
  font-size: 12px;
  padding-bottom: 3px;
}
@media (max-width: 700px) {
  .row {
    min-height: 46px;
    align-items: center;
  }
  .value {
    min-height: 44px;
    width: 100%;
    font-size: 16px;
  }
}
</style>
