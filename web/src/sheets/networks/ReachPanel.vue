<script setup lang="ts">
// What is said of one pair, and why it can or cannot be; said anew here.
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import { attempt, useLab } from '../../lab/useLab'

const props = defineProps<{ cell: Schemas['ReachCell'] }>()
defineEmits<{ close: [] }>()
const { lab, send, add, remove } = useLab()
const past = computed(() => lab.value?.view.kind === 'past')
const choices = [
  { said: 'all', text: 'All' },
  { said: 'some', text: 'Some' },
  { said: 'none', text: 'None' },
  { said: 'not_said', text: 'Not said' },
] as const
const what = ref(props.cell.what ?? '')
const down = ref(props.cell.down_mb ?? '')
const up = ref(props.cell.up_mb ?? '')
const lines = computed(() => [...(lab.value?.outside_lines.values() ?? [])].filter((w) => !w.site))
const only = ref(lines.value.find((w) => w.name === props.cell.only_line)?.id ?? '')
const outside = computed(() => props.cell.to_is.kind === 'internet')

const saying = (said: Schemas['ReachCell']['said']) =>
  attempt(async () => {
    const c = props.cell
    if (said === 'not_said') {
      if (c.rule_id) await send('/api/v1/changes', { changes: [remove({ kind: 'rule', id: c.rule_id })] })
      return
    }
    const was = lab.value?.rules.get(c.rule_id ?? '')
    const rule = {
      ...(was ?? { from: c.from_is, to: c.to_is }),
      kind: 'rule',
      says: said,
      what: (said === 'some' && what.value.trim()) || undefined,
      down_mb: Number(down.value) || undefined,
      up_mb: Number(up.value) || undefined,
      only_line_id: only.value || undefined,
    }
    await send('/api/v1/changes', { changes: [add(rule)] })
  })
const same = () => props.cell.said !== 'not_said' && saying(props.cell.said)
</script>

<template>
  <section class="panel" :aria-label="`${cell.from} to ${cell.to}`">
    <header>
      <h2>{{ cell.from }} to {{ cell.to }}</h2>
      <button class="close" aria-label="Close" @click="$emit('close')">×</button>
    </header>
    <div class="segments" role="group" aria-label="What may be reached">
      <button v-for="c in choices" :key="c.said" :disabled="past" :aria-pressed="cell.said === c.said" @click="saying(c.said)">
        {{ c.text }}
      </button>
    </div>
    <form v-if="cell.said !== 'not_said' && cell.said !== 'none' && !past" @submit.prevent="same">
      <label v-if="cell.said === 'some'">what <input v-model="what" class="field wide" placeholder="web and files" @change="same" /></label>
      <template v-if="outside">
        <label>down <input v-model="down" class="field few" inputmode="numeric" @change="same" /> Mb/s</label>
        <label>up <input v-model="up" class="field few" inputmode="numeric" @change="same" /> Mb/s</label>
        <label v-if="lines.length"
          >by
          <select v-model="only" class="field" @change="same">
            <option value="">any line</option>
            <option v-for="w in lines" :key="w.id" :value="w.id">{{ w.name }} only</option>
          </select></label
        >
      </template>
    </form>
    <p :class="{ bad: !cell.can && cell.said !== 'not_said' }">
      {{
        cell.said === 'none'
          ? cell.can
            ? `The rule holds: ${cell.why}.`
            : `It is got round: ${cell.why}.`
          : cell.can
            ? `Wiring and legs let it: ${cell.why}.`
            : cell.said === 'not_said'
              ? `As it is wired it could not be: ${cell.why}.`
              : `It cannot be: ${cell.why}.`
      }}
    </p>
  </section>
</template>

<style scoped>
.panel {
  padding: 8px 12px 10px;
  border: 1px solid var(--water);
}
header {
  display: flex;
  align-items: baseline;
  margin-bottom: 6px;
}
.close {
  margin-left: auto;
  padding: 0 8px;
  font-size: 18px;
}
.segments {
  width: fit-content;
  flex-wrap: nowrap;
}
.segments button {
  padding-inline: 6px;
  font-size: 14px;
  white-space: nowrap;
}
form {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 16px;
  margin-top: 8px;
}
.wide {
  width: 220px;
}
.few {
  width: 64px;
}
p {
  margin-top: 8px;
}
.bad {
  color: var(--red);
}
@media (max-width: 700px) {
  .close {
    min-width: 44px;
    min-height: 44px;
  }
}
</style>
