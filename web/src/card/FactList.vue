<script setup lang="ts">
// The facts of one group: those that are known, and those that are missed.
// The others are there to be asked for.
import { computed } from 'vue'
import type { Key, Schemas } from '../api/client'
import { capital, spaced } from '../lab/words'
import FactRow from './FactRow.vue'

const props = defineProps<{ record: Key; facts: Schemas['CardFact'][]; all?: boolean; fixed?: string[] }>()

const shown = computed(() => props.facts.filter((f) => f.text || f.gap || f.from === 'never' || props.all || props.fixed?.includes(f.field)))
const choicesOf = (f: Schemas['CardFact']) => f.choices?.map((c) => ({ value: c, title: c }))
const textOf = (f: Schemas['CardFact']) => (f.text ? spaced(f.text) : f.from === 'never' ? 'nobody knows' : undefined)
const hintOf = (f: Schemas['CardFact']) => (f.from === 'sheet' ? 'sheet' : f.private ? 'private' : undefined)
const worded = new Set(['maker', 'model', 'purpose', 'why', 'console', 'figures_by', 'mount', 'got', 'state', 'supply_grade', 'medium', 'recording', 'card_kind', 'name', 'chemistry'])
</script>

<template>
  <FactRow
    v-for="f in shown"
    :key="f.field"
    :record="record"
    :field="f.field"
    :label="capital(f.name)"
    :text="textOf(f)"
    :typed="f.text ?? ''"
    :gap="f.unit || (f.gap ? '' : 'not known')"
    :choices="choicesOf(f)"
    :mono="!worded.has(f.field)"
    :aside="hintOf(f)"
  />
</template>
