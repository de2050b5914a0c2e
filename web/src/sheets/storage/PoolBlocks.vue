<script setup lang="ts">
// A pool as blocks as long as they are large: what is on it, what is free, what is
// redundancy, what no set can use, and spares; a dimension line says what is usable.
import { computed } from 'vue'
import { blocksOf, isNarrow, type Block } from '../../draw/blocks'
import { bothWords, sizeWords, type PoolRow } from '../../work/useStorage'

const props = defineProps<{
  pool: PoolRow
  /** How many bytes the whole width is, and how many pixels. */
  scale: number
  width: number
  picked?: boolean
}>()
const emit = defineEmits<{ pick: [] }>()
const blocks = computed(() => blocksOf(props.pool))
/** What is too narrow for its name is named under the blocks. */
const said = (b: Block) => b.says || sizeWords(b.bytes)
const narrow = (b: Block) => isNarrow((b.bytes / props.scale) * props.width, b.name, said(b))
const named = computed(() => blocks.value.filter((b) => narrow(b) && b.name !== 'usable').map((b) => `${b.name} ${said(b)}`))
const part = (bytes: number) => `${(100 * bytes) / props.scale}%`
/** More may be on it than it has room for: what is beyond the line. */
const usable = computed(() => {
  const p = props.pool
  const most = p.usable_most_bytes ? ` to ${sizeWords(p.usable_most_bytes)}` : ''
  return `usable ${p.at_least ? 'at least ' : ''}${bothWords(p.usable_bytes ?? 0)}${most}`
})
const weak = computed(() => props.pool.may_fail.best === 0 || props.pool.lost)
const fails = computed(() => `${props.pool.may_fail_words}${weak.value && !props.pool.copied ? '; not all on it has a copy' : ''}`)
</script>

<template>
  <section class="pool" :aria-label="pool.name">
    <header>
      <button class="name" :aria-pressed="picked" @click="emit('pick')">{{ pool.name }}</button>
      <span class="soft">on {{ pool.device }}, {{ pool.words }}</span>
      <span class="fails" :class="{ bad: weak }">{{ fails }}</span>
    </header>
    <div v-if="blocks.length" class="blocks" :class="{ picked }" @click="emit('pick')">
      <div v-for="b in blocks" :key="b.key" :class="b.kind" :style="{ width: part(b.bytes) }" :title="`${b.name}: ${sizeWords(b.bytes)}`">
        <span v-if="!narrow(b)" class="label"
          ><b>{{ b.name }}</b
          ><span class="figure">{{ said(b) }}</span></span
        >
      </div>
    </div>
    <p v-else class="unknown room">room unknown: {{ pool.drives.length ? 'the size of a drive is' : 'its drives are' }} not documented</p>
    <div v-if="blocks.length" class="line" :style="{ width: part(pool.usable_bytes ?? 0) }" aria-hidden="true"><i /></div>
    <p v-if="blocks.length" class="usable">
      <span class="figure">{{ usable }}</span><span v-if="named.length" class="soft">{{ named.join(', ') }}</span>
    </p>
  </section>
</template>

<style scoped>
.pool {
  flex: none;
  min-width: 0;
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
  align-items: baseline;
  margin-bottom: 3px;
}
.name {
  font: 600 15px var(--names);
}
.name[aria-pressed='true'] {
  color: var(--red);
}
header .soft,
.fails {
  font: 500 13px var(--names);
}
.fails {
  margin-left: auto;
}
.bad {
  color: var(--red);
}
.blocks {
  display: flex;
  height: 42px;
  cursor: pointer;
}
.blocks > div {
  flex: none;
  min-width: 3px;
  overflow: hidden;
  border: 1px solid var(--ink);
  border-left-width: 0;
}
.blocks > :first-child {
  border-left-width: 1px;
}
.blocks.picked > div {
  border-color: var(--red);
}
.label {
  display: flex;
  flex-direction: column;
  width: max-content;
  padding: 2px 6px;
  line-height: 1.25;
}
.label b {
  font: 600 13px/1.3 var(--names);
}
.label .figure {
  font-size: 12px;
}
.data {
  background: color-mix(in srgb, var(--water) 38%, var(--sheet));
}
.other {
  background: color-mix(in srgb, var(--water) 18%, var(--sheet));
}
.free {
  background: var(--sheet);
}
.kept {
  background: var(--frame);
}
.parity {
  background: repeating-linear-gradient(45deg, var(--rule) 0 2px, var(--sheet) 2px 8px);
}
.parity .label,
.unused .label {
  background: var(--sheet);
}
.unused {
  background: radial-gradient(var(--red) 1px, var(--sheet) 1.4px) 0 0 / 6px 6px;
}
.blocks > .spare {
  margin-left: 4px;
  background: var(--sheet);
  border: 1px dashed var(--ink);
}
.line {
  height: 9px;
  margin-top: 2px;
  border: solid var(--ink);
  border-width: 0 1px;
}
.line i {
  display: block;
  height: 5px;
  border-bottom: 1px solid var(--ink);
}
.usable {
  display: flex;
  flex-wrap: wrap;
  gap: 0 18px;
  font: 500 13px var(--names);
}
.usable .figure {
  font-size: 12px;
}
.room {
  display: inline-block;
}
@media (max-width: 700px) {
  .name {
    min-height: 44px;
  }
  .fails {
    margin-left: 0;
  }
}
</style>
