<script setup lang="ts">
// Facts as they stand on a card, one under the other, edited where they stand.
import type { Key, Schemas } from '../api/client'
import { capital, spaced } from '../lab/words'
import FactRow from './FactRow.vue'

defineProps<{ record: Key; facts: Schemas['Known'][]; still?: boolean }>()

/** A value of one's own, such as a colour by its figures, is typed. */
const choicesOf = (f: Schemas['Known']) =>
  !f.text || f.choices?.includes(f.text) ? f.choices?.map((c) => ({ value: c, title: c })) : undefined
const textOf = (f: Schemas['Known']) =>
  f.text ? spaced(f.field === 'at' ? f.text.replaceAll('"', '') : f.text) : f.from === 'never' ? 'nobody knows' : f.usual
/** A fact that is one address of the web can be opened. */
const linkOf = (f: Schemas['Known']) => /^"?(https?:\/\/[^\s"]+)"?$/.exec(f.text ?? '')?.[1]
const asideOf = (f: Schemas['Known']) =>
  f.from === 'sheet' ? 'sheet' : f.private ? 'private' : !f.text && f.usual ? 'as usual' : undefined
</script>

<template>
  <FactRow
    v-for="f in facts"
    :key="f.field"
    :record="record"
    :field="f.field"
    :label="capital(f.name)"
    :text="textOf(f)"
    :typed="f.text ?? ''"
    :gap="f.unit || (f.gap ? '' : 'not known')"
    :choices="choicesOf(f)"
    :mono="!(f.words || f.choices || f.names || f.long)"
    :aside="asideOf(f)"
    :link="linkOf(f)"
    :long="f.long || (f.text ?? '').length > 60"
    :still="still" />
</template>
