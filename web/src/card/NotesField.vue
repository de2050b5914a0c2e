<script setup lang="ts">
// Notes in Markdown: shown as they are meant, edited as they are typed. The
// text is read as text: what looks like HTML in it is shown, not obeyed.
import { ref, shallowRef, watch } from 'vue'
import type { Key } from '../api/client'
import FactRow from './FactRow.vue'

const props = defineProps<{ record: Key; text?: string }>()
const html = shallowRef('')
const editing = ref(false)
const row = ref<{ edit: () => void }>()

watch(
  () => props.text,
  async (text) => {
    if (!text) return
    const { default: MarkdownIt } = await import('markdown-it')
    html.value = new MarkdownIt({ html: false, linkify: true, breaks: true }).render(text)
  },
  { immediate: true },
)
watch(
  () => props.record.id,
  () => (editing.value = false),
)
watch(row, (is) => editing.value && is?.edit())
</script>

<template>
  <div v-if="text && !editing" class="rendered" data-fact="notes">
    <!-- eslint-disable-next-line vue/no-v-html -->
    <div class="markdown" v-html="html" />
    <button class="edit" aria-label="Notes: edit" @click="editing = true">Edit</button>
  </div>
  <FactRow
    v-else
    ref="row"
    :record="record"
    field="notes"
    label="Notes"
    :text="text"
    gap="none yet"
    long
    @opened="editing = true"
    @left="editing = false" />
</template>

<style scoped>
.markdown :deep(p),
.markdown :deep(ul),
.markdown :deep(ol) {
  margin-bottom: 6px;
}
.markdown :deep(ul),
.markdown :deep(ol) {
  padding-left: 18px;
}
.markdown :deep(h1),
.markdown :deep(h2),
.markdown :deep(h3) {
  margin: 8px 0 4px;
  font: 600 15px var(--names);
  color: var(--ink);
}
.markdown :deep(a) {
  color: var(--water);
}
.markdown :deep(code) {
  font-family: var(--figures);
  font-size: 13px;
}
.edit {
  font-size: 13px;
  color: var(--soft);
  text-decoration: underline dotted;
}
:deep(.term) {
  display: none;
}
</style>
