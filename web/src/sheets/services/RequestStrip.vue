<script setup lang="ts">
// A request as a strip: where the reader is, what answers for the name, what passes it on,
// what answers in the end. Between two of them the port that is asked for, and how one gets
// there; where cables lead there, a click shows them.
import type { Schemas } from '../../api/client'

const props = defineProps<{ way: Schemas['RequestWay'] }>()
const emit = defineEmits<{ pick: [step: Schemas['RequestStep']]; trail: [from: string, to: string] }>()
const words: Record<string, string> = {
  place: 'asked from',
  name_server: 'answers for the name',
  line: 'goes outside',
  tunnel: 'comes in by',
  proxy: 'passes it on',
  device: 'arrives at',
  service: 'answers',
}
const stopped = (i: number) => !props.way.arrives && i === props.way.steps.length - 1
const port = (s: Schemas['RequestStep']) => (s.port && s.kind !== 'service' ? `:${s.port}` : '')
</script>

<template>
  <ol class="way" aria-label="Way of the request">
    <li
      v-for="(s, i) in way.steps"
      :key="i"
      :class="{ stop: stopped(i), inside: s.kind === 'service', ends: way.arrives && i === way.steps.length - 1 }">
      <div v-if="i" class="leg">
        <component
          :is="s.way_from_id ? 'button' : 'span'"
          :title="s.way_from_id ? 'Show the cables of this hop' : undefined"
          @click="s.way_from_id && emit('trail', s.way_from_id, s.way_to_id ?? '')">
          <span class="figure">{{ port(s) || ' ' }}</span>
          <i aria-hidden="true">{{ stopped(i) ? '✕' : '' }}</i>
          <small v-if="s.way_from_id">cables</small>
        </component>
      </div>
      <div class="at">
        <small>{{ stopped(i) ? 'stopped before' : words[s.kind] }}</small>
        <div class="box">
          <button v-if="s.to" @click="emit('pick', s)">{{ s.title }}</button>
          <b v-else>{{ s.title }}</b>
        </div>
        <small v-if="s.by" class="by">{{ s.by }}</small>
      </div>
    </li>
  </ol>
</template>

<style scoped>
.way {
  display: flex;
  flex-wrap: wrap;
  gap: 12px 0;
  padding: 0;
  margin: 10px 0 6px;
  list-style: none;
}
li {
  display: flex;
  align-items: flex-start;
}
.at {
  display: flex;
  flex-direction: column;
  gap: 2px;
  max-width: 172px;
}
.box {
  display: flex;
  align-items: center;
}
/* On to the next one, past what is said below. */
li:not(:last-child) .box::after {
  flex: 1;
  content: '';
  border-top: 2px solid var(--water);
}
.box > button,
.box > b {
  padding: 4px 12px;
  font: 600 14px var(--names);
  color: var(--ink);
  text-align: left;
  background: var(--sheet);
  border: 1px solid var(--ink);
  border-radius: 3px;
}
.box > b {
  border-style: dashed;
}
.ends .box > button {
  color: var(--paper);
  background: var(--ink);
}
.stop .box > button,
.stop .box > b {
  color: var(--red);
  border-color: var(--red);
}
small {
  font-size: 12px;
  line-height: 1.3;
  color: var(--soft);
}
.stop small:first-child {
  color: var(--red);
}
/* The label, its gap and half a box, less the port that stands on the line. */
.leg {
  width: 62px;
  padding-top: 14.6px;
  text-align: center;
}
.leg > * {
  position: relative;
  display: block;
  width: 100%;
}
.leg .figure {
  display: block;
  height: 16px;
  font-size: 13px;
  line-height: 1;
}
.leg i {
  display: block;
  height: 0;
  font: 600 14px/0 var(--names);
  color: var(--red);
  border-top: 2px solid var(--water);
}
.inside .leg {
  width: 26px;
}
.stop .leg i {
  border-top: 2px dashed var(--red);
}
.leg button:hover i {
  border-color: var(--ink);
}
.leg small {
  display: block;
  padding-top: 2px;
  text-decoration: underline dotted;
  text-underline-offset: 3px;
}
@media (max-width: 700px) {
  .way,
  li {
    flex-direction: column;
    gap: 0;
  }
  .at {
    max-width: none;
  }
  li:not(:last-child) .box::after {
    content: none;
  }
  .box > button {
    min-height: 44px;
  }
  .leg {
    width: auto;
    padding: 0 0 0 22px;
    margin-left: 10px;
    border-left: 3px solid var(--water);
  }
  .stop .leg {
    border-left: 3px dashed var(--red);
  }
  .leg > * {
    display: flex;
    gap: 12px;
    align-items: center;
    min-height: 30px;
  }
  .leg > button {
    min-height: 44px;
  }
  .leg i {
    display: none;
  }
}
</style>
