<script setup lang="ts">
// One photo, large: its caption, its turn among the others, and the way out.
import { computed, ref, watch } from 'vue'
import type { ChangeIn, Schemas } from '../api/client'
import { pictureOf, photosOf } from '../lab/photos'
import { attempt, useLab } from '../lab/useLab'
import { title } from '../lab/words'

const props = defineProps<{ id: string; device: string; fixed: boolean }>()
const emit = defineEmits<{ show: [id: string]; close: [] }>()
const { lab, send, remove } = useLab()
const photos = computed(() => photosOf(lab.value, props.device))
const at = computed(() => photos.value.findIndex((p) => p.id === props.id))
const photo = computed(() => photos.value[at.value])
const name = computed(() => {
  const device = lab.value?.devices.get(props.device)
  return device ? title(device) : ''
})
const caption = ref('')
const missing = ref(false)

watch(
  photo,
  (now, before) => {
    if (!now) return emit('close') // it was removed, or undone
    if (now.id !== before?.id) missing.value = false
    caption.value = now.caption ?? ''
  },
  { immediate: true },
)

const change = (changes: ChangeIn[]) => attempt(() => send('/api/v1/changes', { changes }))
const put = (p: Schemas['Photo']): ChangeIn => ({ put: { kind: 'photo', ...p } })

function go(by: 1 | -1) {
  const next = photos.value[at.value + by]
  if (next) emit('show', next.id)
}
async function say() {
  const text = caption.value.trim()
  if (photo.value && text !== (photo.value.caption ?? '')) await change([put({ ...photo.value, caption: text || undefined })])
}
async function first() {
  const rest = photos.value.filter((p) => p.id !== props.id)
  if (photo.value) await change([photo.value, ...rest].map((p, order) => put({ ...p, order })))
}
async function gone() {
  const { id } = props
  const next = photos.value[at.value + 1] ?? photos.value[at.value - 1]
  if (next) emit('show', next.id)
  await change([remove({ kind: 'photo', id })])
}
</script>

<template>
  <v-dialog
    :model-value="true"
    :aria-label="`A photo of ${name}`"
    max-width="980"
    scrollable
    @update:model-value="emit('close')"
    @keydown.left="go(-1)"
    @keydown.right="go(1)">
    <v-card v-if="photo">
      <v-card-title
        >{{ name }}<span v-if="photos.length > 1" class="soft figure count">{{ at + 1 }} of {{ photos.length }}</span></v-card-title
      >
      <v-card-text>
        <img
          v-if="!missing"
          :src="pictureOf(photo)"
          :alt="photo.caption ?? `A photo of ${name}`"
          :width="photo.width_px"
          :height="photo.height_px"
          @error="missing = true" />
        <p v-else class="missing">
          The picture is not here. A lab that was loaded from a text file comes without its pictures; a backup has them.
        </p>
        <p v-if="fixed">{{ photo.caption }}</p>
        <v-text-field
          v-else
          v-model="caption"
          label="Caption"
          maxlength="200"
          hide-details
          @blur="say"
          @keydown.enter="say"
          @keydown.left.stop
          @keydown.right.stop />
      </v-card-text>
      <v-card-actions>
        <v-btn :disabled="at < 1" aria-label="Previous photo" @click="go(-1)">‹</v-btn>
        <v-btn :disabled="at >= photos.length - 1" aria-label="Next photo" @click="go(1)">›</v-btn>
        <template v-if="!fixed">
          <v-btn v-if="at > 0" @click="first">Make it the first</v-btn>
          <v-btn @click="gone">Remove it</v-btn>
        </template>
        <v-spacer />
        <v-btn variant="flat" color="ink" @click="emit('close')">Done</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
img {
  display: block;
  width: auto;
  max-width: 100%;
  height: auto;
  max-height: calc(100vh - 260px);
  margin: 0 auto 12px;
}
.count {
  float: right;
  font-size: 14px;
  font-weight: 400;
}
.missing {
  padding: 60px 20px;
  margin-bottom: 12px;
  border: 1px solid var(--rule);
  text-align: center;
  color: var(--soft);
}
</style>
