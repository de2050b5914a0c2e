<script setup lang="ts">
// A draft's steps in their order: what each does, what it costs, whether it
// still holds. Each is ticked off when it is done, which makes it real.
import { mdiArrowDown, mdiArrowUp, mdiClose } from '@mdi/js'
import { computed } from 'vue'
import type { DraftEffect, Schemas } from '../../api/client'
import FactRow from '../../card/FactRow.vue'
import { days } from '../../lab/words'
import { useDrafts } from '../../work/useDrafts'

const props = defineProps<{ effect: DraftEffect }>()
const { chosenId, choose, tick, reorder, copy, discard, removeStep } = useDrafts()

const id = computed(() => props.effect.draft.id)
const left = computed(() => props.effect.steps.filter((s) => !s.step.done_on))
const broken = computed(() => left.value.filter((s) => s.why))
const sub = computed(() => {
  const begun = props.effect.draft.begun_on
  const none = props.effect.steps.length ? 'all done' : 'no steps yet'
  const holds = !left.value.length ? none : broken.value.length ? `${broken.value.length} no longer hold` : 'still holds'
  return [begun && `started ${days(begun)}`, `on top of change #${props.effect.revision}`, holds].filter(Boolean).join(' · ')
})

function shift(step: Schemas['Step'], by: 1 | -1) {
  const order = props.effect.steps.map((s) => s.step.id)
  const at = order.indexOf(step.id)
  const to = at + by
  if (to < 0 || to >= order.length) return
  order.splice(to, 0, ...order.splice(at, 1))
  void reorder(id.value, order)
}
const key = (step: Schemas['Step']) => ({ kind: 'step' as const, id: step.id })
const draftKey = computed(() => ({ kind: 'draft' as const, id: id.value }))
</script>

<template>
  <aside class="card steps" aria-label="Steps of the draft">
    <FactRow class="name" :record="draftKey" field="name" label="Name" :text="effect.draft.name" gap="name" />
    <p class="sub">{{ sub }}</p>
    <FactRow class="why-row" :record="draftKey" field="notes" label="What it is for" :text="effect.draft.notes" gap="what it is for" long />
    <p class="choose">
      <v-btn v-if="chosenId !== id" size="small" @click="choose(id)">Work in this draft</v-btn>
      <v-btn v-else size="small" @click="choose('')">Back to as built</v-btn>
    </p>
    <h2>Steps, in order</h2>
    <p v-if="!effect.steps.length" class="soft">
      None yet. Work in this draft, then drag devices, type lines, remove what goes: each change becomes a step.
    </p>
    <ol>
      <li v-for="(s, i) in effect.steps" :key="s.step.id" :class="{ done: s.step.done_on, broken: s.why }" :data-step="s.step.id">
        <button
          v-if="!s.step.done_on"
          class="tick"
          :disabled="!!s.why"
          :aria-label="`Done: ${s.words}`"
          title="Done: apply it to the lab"
          @click="tick(id, [s.step.id])">
          {{ i + 1 }}
        </button>
        <span v-else class="ticked" :title="`done ${days(s.step.done_on)}`">✓</span>
        <p class="words">{{ s.words }}</p>
        <FactRow class="price" :record="key(s.step)" field="price_minor" label="Price" :text="s.price" :typed="s.price ?? ''" gap="" mono />
        <p v-if="s.why" class="why">No longer holds: {{ s.why }}.</p>
        <FactRow
          v-if="s.step.note || !s.step.done_on"
          class="note"
          :record="key(s.step)"
          field="note"
          label="Note"
          :text="s.step.note"
          gap="note"
          long />
        <span v-if="!s.step.done_on" class="does">
          <v-btn
            :icon="mdiArrowUp"
            size="24"
            variant="text"
            :disabled="!i"
            :aria-label="`Earlier: ${s.words}`"
            @click="shift(s.step, -1)" />
          <v-btn
            :icon="mdiArrowDown"
            size="24"
            variant="text"
            :disabled="i === effect.steps.length - 1"
            :aria-label="`Later: ${s.words}`"
            @click="shift(s.step, 1)" />
          <v-btn :icon="mdiClose" size="24" variant="text" :aria-label="`Leave out: ${s.words}`" @click="removeStep(s.step.id)" />
        </span>
      </li>
    </ol>
    <p v-if="effect.steps.length" class="sum">
      <span class="soft">Total</span> <span class="figure">{{ effect.cost.words }}</span>
    </p>
    <div class="buttons">
      <v-btn v-if="left[0] && !left[0].why" size="small" @click="tick(id, [left[0].step.id])">Tick the next step</v-btn>
      <v-btn
        v-if="left.length > 1 && !broken.length"
        size="small"
        @click="
          tick(
            id,
            left.map((s) => s.step.id),
          )
        "
        >Tick all {{ left.length }}</v-btn
      >
      <v-btn size="small" variant="text" @click="copy(effect.draft)">Copy</v-btn>
      <v-btn size="small" variant="text" @click="discard(effect.draft)">Discard</v-btn>
    </div>
  </aside>
</template>

<style scoped>
.steps {
  overflow-y: auto;
  padding: 12px 16px 20px;
  background: var(--sheet);
  border-left: 1px solid var(--rule);
}
.why-row :deep(.term),
.note :deep(.term),
.price :deep(.term) {
  display: none;
}
.choose {
  margin-top: 8px;
}
ol {
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 30px 1fr auto;
  gap: 0 8px;
  align-items: baseline;
  padding: 5px 0;
  border-bottom: 1px solid var(--rule);
}
.tick {
  width: 24px;
  height: 24px;
  border: 1px solid var(--soft);
  border-radius: 3px;
  font: 500 13px var(--figures);
}
.tick:not(:disabled):hover {
  border-color: var(--moss);
  color: var(--moss);
}
.tick:disabled {
  border-color: var(--red);
  color: var(--red);
  cursor: not-allowed;
}
.ticked {
  text-align: center;
  color: var(--moss);
}
.words {
  line-height: 1.35;
}
.done .words {
  color: var(--soft);
}
.price.row {
  grid-template-columns: auto;
  border: 0;
  min-height: 0;
  min-width: 60px;
  text-align: right;
}
.price :deep(.value) {
  text-align: right;
}
.price :deep(.field) {
  width: 96px;
}
.note {
  grid-column: 2;
  min-height: 0;
}
.note :deep(.value) {
  font-size: 13px;
  color: var(--soft);
}
.note :deep(.unknown) {
  border-color: transparent;
  color: var(--soft);
  padding: 0;
  font-family: var(--sentences);
}
.why {
  grid-column: 2 / -1;
  font-size: 13px;
  color: var(--red);
}
.does {
  grid-column: 3;
  display: flex;
  justify-content: flex-end;
}
.sum {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 7px 0;
}
@media (max-width: 700px) {
  .tick {
    width: 44px;
    height: 44px;
  }
  li {
    grid-template-columns: 50px 1fr auto;
  }
}
</style>
