<script setup lang="ts">
// The whole lab as text beside the live elevation. What the text would change
// is listed before it is done.
import { useDebounceFn, useElementSize } from '@vueuse/core'
import type { EditorView } from '@codemirror/view'
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import { onBeforeRouteLeave } from 'vue-router'
import { latest } from '../../api/latest'
import { getText, post, type Plan } from '../../api/client'
import { attempt, heldIn, say, useLab, withDelta, withSpaces } from '../../lab/useLab'
import TitleBlock from '../../frame/TitleBlock.vue'
import { useWork } from '../../work/work'
import EditList from './EditList.vue'
import PreviewDrawing from './PreviewDrawing.vue'
import { correct, makeEditor, markMistakes } from './editor'

const work = useWork()
const { lab, spaces, send } = useLab()
const box = ref<HTMLElement>()
const room = ref<HTMLElement>()
const { width, height } = useElementSize(room)
const editor = shallowRef<EditorView>()
const plan = shallowRef<Plan>()
const text = ref('')
const written = ref('') // the text as the lab has it
const line = ref(1)
const { ask } = latest()

const edited = computed(() => text.value !== written.value)
const next = computed(() => (lab.value && plan.value ? withDelta(lab.value, plan.value.delta) : lab.value))
const nextSpaces = computed(() => (plan.value ? withSpaces(spaces.value, plan.value.delta) : spaces.value))
const held = computed(() => (next.value ? heldIn(next.value) : new Map()))
const edits = computed(() => plan.value?.delta.edits ?? [])
const mistakes = computed(() => plan.value?.mistakes ?? [])
/** The rack or device that the cursor's line is about. */
const here = computed(() => plan.value?.lines.find((l) => l.line === line.value)?.records[0])
const rackId = ref('')
watch(here, (key) => {
  const device = next.value?.devices.get(key?.id ?? '')
  if (key?.kind === 'rack') rackId.value = key.id
  else if (device?.at?.rack_id) rackId.value = device.at.rack_id
})
const rack = computed(() => next.value?.racks.get(rackId.value) ?? next.value?.racks.values().next().value)

async function check() {
  await ask(
    () => post('/api/v1/rundown/check', { base_revision: lab.value?.revision ?? 0, text: text.value, forget: true }),
    (answer) => {
      if (!editor.value) return
      plan.value = answer
      markMistakes(editor.value, answer.mistakes)
    },
    (why) => say(why, true),
  )
}
const soon = useDebounceFn(check, 60)

async function read() {
  written.value = await getText('/api/v1/rundown')
  text.value = written.value
  editor.value?.dispatch({ changes: { from: 0, to: editor.value.state.doc.length, insert: written.value } })
  await check()
}

async function apply() {
  const skip = mistakes.value.length > 0
  const done = await attempt(() => send('/api/v1/rundown', { text: text.value, forget: true, skip_mistakes: skip }))
  if (!done || !skip) return done ? read() : check()
  await check()
}

onMounted(async () => {
  if (!box.value) return
  editor.value = makeEditor(
    box.value,
    '',
    (t) => ((text.value = t), void soon()),
    (n) => (line.value = n),
  )
  await read()
  editor.value.focus()
  if (work.rack) rackId.value = work.rack.id
})
// Undo, or another window: the text follows the lab unless it is being edited.
watch(lab, () => (edited.value ? check() : read()))
onBeforeUnmount(() => editor.value?.destroy())
onBeforeRouteLeave(() => !edited.value || !edits.value.length || window.confirm('The text has unapplied changes. Leave anyway?'))
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
          <v-btn :disabled="!edits.length" @click="apply">{{
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
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
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
  flex: none;
  gap: 6px;
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
