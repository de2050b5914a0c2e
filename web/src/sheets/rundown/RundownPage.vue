<script setup lang="ts">
// The whole lab as text beside the live elevation. What the text would change
// is listed before it is done.
import { useDebounceFn, useElementSize } from '@vueuse/core'
import type { EditorView } from '@codemirror/view'
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import { onBeforeRouteLeave } from 'vue-router'
import { latest } from '../../api/latest'
import { getText, post, view, type Plan, type Schemas } from '../../api/client'
import { attempt, heldIn, say, useLab, withDelta, withSpaces } from '../../lab/useLab'
import TitleBlock from '../../frame/TitleBlock.vue'
import { useWork } from '../../work/work'
import EditList from './EditList.vue'
import PreviewDrawing from './PreviewDrawing.vue'
import { correct, makeEditor, markMistakes } from './editor'
import { born, keep, unapplied } from './unapplied'

const work = useWork()
const { lab, spaces, send } = useLab()
const box = ref<HTMLElement>()
const room = ref<HTMLElement>()
const { width, height } = useElementSize(room)
const editor = shallowRef<EditorView>()
const plan = shallowRef<Plan>()
const text = ref('')
const written = ref('') // the text as the lab had it
const base = ref(0) // at this revision
const since = ref('') // when a text was typed that is here again
const line = ref(1)
const { ask } = latest()
let whose = ''

const edited = computed(() => text.value !== written.value)
const next = computed(() => (lab.value && plan.value ? withDelta(lab.value, plan.value.delta) : lab.value))
const nextSpaces = computed(() => (plan.value ? withSpaces(spaces.value, plan.value.delta) : spaces.value))
const held = computed(() => (next.value ? heldIn(next.value) : new Map()))
const edits = computed(() => plan.value?.delta.edits ?? [])
const mistakes = computed(() => plan.value?.mistakes ?? [])
/** Facts that the text sets, and that others set too since it was written. */
const clashes = computed(() => plan.value?.clashes ?? [])
/** The rack or device that the cursor's line is about. */
const here = computed(() => plan.value?.lines.find((l) => l.line === line.value)?.records[0])
const rackId = ref('')
watch(here, (key) => {
  const device = next.value?.devices.get(key?.id ?? '')
  if (key?.kind === 'rack') rackId.value = key.id
  else if (device?.at?.rack_id) rackId.value = device.at.rack_id
})
const rack = computed(() => next.value?.racks.get(rackId.value) ?? next.value?.racks.values().next().value)

/** Tells whether the plan is that of the latest text. */
async function check(): Promise<boolean> {
  return await ask(
    () => post('/api/v1/rundown/check', { base_revision: base.value, text: text.value, forget: true }),
    (answer) => {
      plan.value = answer
      if (editor.value) markMistakes(editor.value, answer.mistakes)
    },
    (why) => say(why, true),
  )
}
const soon = useDebounceFn(check, 60)

/** Puts a text into the editor. */
function show(is: string) {
  text.value = is
  editor.value?.dispatch({ changes: { from: 0, to: editor.value.state.doc.length, insert: is } })
}

/** The text as the lab has it now takes the place of what was typed; what is typed while it is fetched stays. */
async function read() {
  const [revision, before] = [lab.value?.revision ?? 0, text.value]
  const is = await getText('/api/v1/rundown')
  if (text.value !== before) return
  base.value = revision
  written.value = is
  since.value = ''
  show(written.value)
  keep(whose, view.value)
  await check()
}

/** What was typed here and not applied comes back; else the text as the lab has it. */
async function open() {
  whose = await born(lab.value?.revision ?? 0)
  const kept = unapplied(whose, view.value)
  if (!kept || kept.base > (lab.value?.revision ?? 0)) return read()
  base.value = kept.base
  written.value = kept.written
  since.value = new Date(kept.at).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' })
  show(kept.text)
  await check()
}

function keepIt() {
  const is = edited.value ? { base: base.value, written: written.value, text: text.value, at: Date.now() } : undefined
  if (!keep(whose, view.value, is)) say('This text is too large for the browser to keep; apply it before you leave.', true)
}

function typed(is: string) {
  if (is === text.value) return
  text.value = is
  keepIt()
  void soon()
}

async function apply(whose?: Schemas['Whose']) {
  while (!(await check())); // what was typed last counts too
  if (clashes.value.length && !whose) return say('Someone else changed some of this meanwhile; choose yours or theirs.', true)
  if (!edits.value.length && !whose) return
  const part = mistakes.value.length > 0
  const unread = plan.value?.since?.length ? plan.value.unread : undefined
  const done = await attempt(() =>
    send('/api/v1/rundown', {
      base_revision: base.value,
      text: text.value,
      forget: true,
      skip_mistakes: part,
      clashes: whose,
      seen_revision: whose && plan.value?.delta.revision,
    }),
  )
  if (!done || !part) return done ? read() : check()
  // The lines with mistakes are still to be mended, from the lab as it is now.
  base.value = lab.value?.revision ?? 0
  written.value = await getText('/api/v1/rundown')
  if (unread !== undefined) show(written.value + unread)
  keepIt()
  await check()
}

onMounted(async () => {
  if (work.rack) rackId.value = work.rack.id
  await open()
  if (!box.value) return
  // There is nothing to type into before the text is there: it would take the place of what was typed.
  editor.value = makeEditor(box.value, text.value, {
    typed,
    line: (n) => (line.value = n),
    apply: () => void apply(),
    complete: (typed) =>
      post('/api/v1/lines/check', { base_revision: lab.value?.revision ?? 0, line: typed, rack_id: rack.value?.id }).then(
        (check) => check.completions,
        () => [],
      ),
  })
  markMistakes(editor.value, mistakes.value)
})
// Undo, or another window: the text follows the lab unless it is being edited.
// Another way of looking at the lab has a text of its own.
watch(lab, (now, before) => {
  if (now?.view.kind !== before?.view.kind || now?.view.draft_id !== before?.view.draft_id) void open()
  else void (edited.value ? check() : read())
})
onBeforeUnmount(() => editor.value?.destroy())
onBeforeRouteLeave(() => {
  if (edited.value && edits.value.length) say('The text is kept on the Rundown sheet; it is not applied yet.')
})
</script>

<template>
  <main class="page">
    <section class="text" aria-label="Text">
      <div ref="box" class="box" />
      <div class="act">
        <EditList
          :edits="edits"
          :mistakes="mistakes"
          :more="plan?.more_mistakes"
          :kept="plan?.kept"
          :since="plan?.since"
          :clashes="clashes"
          @help="work.dialog = 'notation'"
          @correct="(m) => editor && correct(editor, m)"
          @go="
            (m) =>
              editor &&
              (editor.focus(),
              editor.dispatch({
                selection: { anchor: editor.state.doc.line(Math.min(m.line, editor.state.doc.lines)).from + m.column - 1 },
                scrollIntoView: true,
              }))
          " />
        <div class="buttons">
          <span v-if="since && edited" class="soft kept">typed {{ since }}, not applied yet</span>
          <template v-if="clashes.length">
            <v-btn @click="apply('mine')">Apply, with yours</v-btn>
            <v-btn @click="apply('theirs')">Apply, with theirs</v-btn>
          </template>
          <v-btn v-else :disabled="!edits.length" title="Ctrl+Enter" @click="apply()">{{
            mistakes.length && edits.length ? 'Apply the lines without mistakes' : 'Apply'
          }}</v-btn>
          <v-btn variant="text" :disabled="!edited" @click="read">Revert</v-btn>
        </div>
      </div>
    </section>
    <section class="drawn grid-paper">
      <div ref="room" class="room">
        <PreviewDrawing
          v-if="next && rack && width"
          :lab="next"
          :rack="rack"
          :held="held"
          :space="nextSpaces.get(rack.id)"
          :width="width"
          :height="height"
          :picked="here?.kind === 'device' ? here.id : ''" />
        <p v-else-if="!rack" class="soft empty">
          The rack appears here once there is a line such as <code class="figure">rack "Pantry": 24U, 19in</code>
        </p>
      </div>
      <TitleBlock :sheet="rack ? `${rack.name}, from the text` : 'Rundown'" />
    </section>
  </main>
</template>

<style scoped>
.page {
  display: grid;
  grid-template-columns: minmax(0, 1.25fr) minmax(0, 1fr); /* 80 characters at 1280 px */
  min-height: 0;
}
.text {
  display: flex;
  flex-direction: column;
  min-height: 0;
  background: var(--sheet);
  border-right: 1px solid var(--rule);
}
.box {
  flex: 1;
  min-height: 0;
}
.act {
  display: flex;
  gap: 16px;
  justify-content: space-between;
  align-items: flex-end;
  padding: 10px 14px;
  border-top: 1px solid var(--rule);
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  justify-content: flex-end;
  gap: 6px;
}
.kept {
  font-size: 13px;
}
.drawn {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.room {
  flex: 1;
  min-height: 0;
  padding: 12px 18px;
  overflow-y: auto;
}
.empty {
  padding: 40px;
}
@media (max-width: 700px) {
  .page {
    grid-template: minmax(0, 1fr) / minmax(0, 1fr);
  }
  .drawn {
    display: none;
  }
  .act {
    flex-direction: column;
    align-items: stretch;
  }
}
</style>
