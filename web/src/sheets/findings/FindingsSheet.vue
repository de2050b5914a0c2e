<script setup lang="ts">
// What the checks noticed, those that ask for most first. Each leads to its
// thing, and can be accepted with a reason and a day to look again.
import { computed, nextTick, reactive, ref } from 'vue'
import type { Finding } from '../../api/client'
import { isOpen, useFindings } from '../../lab/useFindings'
import { attempt, useLab } from '../../lab/useLab'
import { days, dayOf } from '../../lab/words'
import SheetFrame from '../../frame/SheetFrame.vue'
import { useFix } from '../../work/useFix'
import { useShow } from '../../work/useShow'
import { useWork } from '../../work/work'
import LevelMark from './LevelMark.vue'

const { findings, counts } = useFindings()
const { lab, send, add, remove } = useLab()
const work = useWork()
const { pick, show } = useShow()
const { fix } = useFix()
const onlyHere = ref(false)
const accepting = ref('')
const reason = ref('')
const again = ref('')

/** What a finding is about: a few of many, until one asks for all. */
const whole = reactive(new Set<string>())
const few = 6
const listed = (f: Finding) => (whole.has(f.key) || f.records.length <= few + 1 ? f.records : f.records.slice(0, few))
const here = (f: Finding) => !onlyHere.value || f.records.some((r) => r.id === work.rack?.id || work.inOrder.some((d) => d.id === r.id))
const open = computed(() => findings.value.filter((f) => isOpen(f) && here(f)))
const accepted = computed(() => findings.value.filter((f) => !isOpen(f) && here(f)))
const groups = computed(() =>
  (['act', 'watch', 'note'] as const)
    .map((level) => ({ level, list: open.value.filter((f) => f.level === level) }))
    .filter((g) => g.list.length),
)
const hints = { act: 'wrong now', watch: 'may go wrong', note: 'good to know' }
const past = computed(() => lab.value?.view.kind === 'past')

async function ask(f: Finding) {
  accepting.value = f.key
  reason.value = f.accepted?.reason ?? ''
  const half = new Date()
  half.setMonth(half.getMonth() + 6)
  again.value = f.accepted?.again_on ?? dayOf(half)
  await nextTick()
  document.getElementById('reason')?.focus()
}

async function accept(f: Finding) {
  const put = {
    kind: 'acceptance',
    ...(f.accepted?.id ? { id: f.accepted.id } : {}),
    finding: f.key,
    reason: reason.value.trim(),
    ...(again.value ? { again_on: again.value } : {}),
  }
  if (await attempt(() => send('/api/v1/changes', { label: `accepted: ${f.say.slice(0, 120)}`, changes: [add(put)] }))) accepting.value = ''
}

const reopen = (f: Finding) =>
  attempt(() =>
    send('/api/v1/changes', {
      label: `no longer accepted: ${f.say.slice(0, 120)}`,
      changes: [remove({ kind: 'acceptance', id: f.accepted?.id ?? '' })],
    }),
  )
</script>

<template>
  <SheetFrame>
    <template #bar>
      <p>
        <LevelMark level="act" bare /> <b>{{ counts.act }}</b> to act on · <LevelMark level="watch" bare /> <b>{{ counts.watch }}</b> to
        watch · <b>{{ counts.note }}</b> notes
      </p>
      <label v-if="work.rack" class="only"><input v-model="onlyHere" type="checkbox" /> only {{ work.rack.name }}</label>
    </template>
    <div class="list" data-scroll>
      <p v-if="!findings.length" class="empty">
        The checks noticed nothing. They look for overloaded racks, devices that collide in depth, devices with nothing under them, heavy
        above light, states that do not match places, unplaced devices, parts that do not fit, and cables that do not fit, are too long, too
        short, faulty or lead nowhere.
      </p>
      <section v-for="g in groups" :key="g.level" :aria-label="g.level">
        <h2>
          <LevelMark :level="g.level" /> <small class="soft">{{ hints[g.level] }}</small>
        </h2>
        <ul>
          <li v-for="f in g.list" :key="f.key" :data-finding="f.key">
            <button class="say" @click="f.records[0] && pick(f.records[0])">{{ f.say }}</button>
            <p v-if="f.again && f.accepted" class="again">
              Accepted until {{ days(f.accepted.again_on ?? '') }}: {{ f.accepted.reason }}. Look again.
            </p>
            <div class="does">
              <button v-for="r in listed(f)" :key="r.id" class="to" :title="r.where" @click="show(r)">{{ r.title }}</button>
              <button v-if="listed(f).length < f.records.length" class="to quiet" @click="whole.add(f.key)">
                and {{ f.records.length - listed(f).length }} more
              </button>
              <button v-if="f.fix && !past" class="to fix" @click="fix(f)">{{ f.fix.say.replace(/\.$/, '') }}</button>
              <button v-if="!past" class="to quiet" @click="ask(f)">Accept…</button>
            </div>
            <form v-if="accepting === f.key" class="accept" @submit.prevent="accept(f)" @keydown.esc.stop="accepting = ''">
              <label>Why this is acceptable <input id="reason" v-model="reason" maxlength="500" required autocomplete="off" /></label>
              <label>Look again on <input v-model="again" type="date" /></label>
              <v-btn size="small" type="submit" :disabled="!reason.trim()">Accept</v-btn>
              <v-btn size="small" variant="text" @click="accepting = ''">Cancel</v-btn>
            </form>
          </li>
        </ul>
      </section>
      <section v-if="accepted.length" aria-label="accepted">
        <h2>Accepted</h2>
        <ul>
          <li v-for="f in accepted" :key="f.key" class="soft" :data-finding="f.key">
            <button class="say" @click="f.records[0] && pick(f.records[0])">{{ f.say }}</button>
            <p class="why">{{ f.accepted?.reason }}{{ f.accepted?.again_on ? `, until ${days(f.accepted.again_on)}` : '' }}</p>
            <div v-if="!past" class="does"><button class="to quiet" @click="reopen(f)">Reopen</button></div>
          </li>
        </ul>
      </section>
    </div>
  </SheetFrame>
</template>

<style scoped>
.only {
  margin-left: auto;
  display: flex;
  gap: 6px;
  align-items: center;
}
.list {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  padding: 0 20px 12px;
}
h2 {
  margin: 14px 0 4px;
}
h2 small {
  margin-left: 6px;
  font: 400 13px var(--sentences);
}
ul {
  list-style: none;
  max-width: 860px;
}
li {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 2px 16px;
  padding: 7px 12px;
  background: var(--sheet);
  border: 1px solid var(--rule);
  margin-bottom: -1px;
}
.say {
  text-align: left;
  line-height: 1.4;
}
.does {
  display: flex;
  gap: 6px;
  align-items: flex-start;
}
.to {
  padding: 0 8px;
  border: 1px solid var(--soft);
  border-radius: 3px;
  font: 600 13px/22px var(--names);
  white-space: nowrap;
}
.to:hover {
  border-color: var(--red);
}
.fix {
  border-color: var(--moss);
}
.quiet {
  border-color: transparent;
  color: var(--soft);
  text-decoration: underline;
  text-underline-offset: 3px;
}
.again,
.why {
  grid-column: 1;
  font-size: 13px;
}
.again {
  color: var(--red);
}
.accept {
  grid-column: 1 / -1;
  display: flex;
  flex-wrap: wrap;
  align-items: flex-end;
  gap: 8px 12px;
  padding: 8px 0 4px;
}
.accept label {
  display: grid;
  font-size: 13px;
  color: var(--soft);
}
.accept input {
  height: 30px;
  padding: 0 8px;
  font: 400 14px var(--sentences);
  color: var(--ink);
  background: var(--paper);
  border: 1px solid var(--soft);
  border-radius: 3px;
}
.accept label:first-child {
  flex: 1;
  min-width: 220px;
}
.empty {
  max-width: 520px;
  margin-top: 40px;
}
@media (max-width: 700px) {
  li {
    grid-template-columns: 1fr;
  }
  .say,
  .to {
    min-height: 44px;
  }
}
</style>
