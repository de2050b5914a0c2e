<script setup lang="ts">
// The photos of a device: picked, taken with a phone, dropped or pasted here.
import { computed, defineAsyncComponent, ref } from 'vue'
import { Refused } from '../api/client'
import { say, useLab } from '../lab/useLab'
import { pictureOf, photosOf } from '../lab/photos'

const PhotoDialog = defineAsyncComponent(() => import('./PhotoDialog.vue'))

const props = defineProps<{ device: string; fixed: boolean }>()
const { lab, send } = useLab()
const photos = computed(() => photosOf(lab.value, props.device))
const input = ref<HTMLInputElement>()
const shown = ref('')
const over = ref(false)
/** How many of the files that were picked are sent, while some are left. */
const progress = ref<{ done: number; of: number }>()
const wrong = ref<string[]>([])
/** Photos whose picture is not here: the lab came from a text file. */
const missing = ref(new Set<string>())

async function keep(files: File[]) {
  wrong.value = []
  progress.value = { done: 0, of: files.length }
  let kept = 0
  for (const file of files) {
    try {
      await send('/api/v1/devices/{id}/photos', file, { id: props.device })
      kept++
    } catch (e) {
      if (!(e instanceof Refused)) throw e
      wrong.value.push(`${file.name}: ${e.message}`)
    }
    progress.value = { done: progress.value.done + 1, of: files.length }
  }
  progress.value = undefined
  if (kept) say(kept === 1 ? 'One photo added.' : `${kept} photos kept.`)
}
function picked() {
  const files = [...(input.value?.files ?? [])]
  if (input.value) input.value.value = ''
  if (files.length) void keep(files)
}
function dropped(event: DragEvent | ClipboardEvent) {
  over.value = false
  const from = event instanceof DragEvent ? event.dataTransfer : event.clipboardData
  const files = [...(from?.files ?? [])]
  if (!files.length || props.fixed) return
  event.preventDefault()
  void keep(files)
}
</script>

<template>
  <div
    v-if="photos.length || !fixed"
    class="photos"
    :class="{ over }"
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop="dropped"
    @paste="dropped">
    <h2>Photos</h2>
    <ul v-if="photos.length">
      <li v-for="(p, i) in photos" :key="p.id">
        <button :aria-label="`Photo ${i + 1}: ${p.caption ?? 'no caption'}`" @click="shown = p.id">
          <img
            v-if="!missing.has(p.file)"
            :src="pictureOf(p, true)"
            :alt="p.caption ?? ''"
            loading="lazy"
            @error="missing = new Set(missing).add(p.file)" />
          <span v-else class="missing">picture not here</span>
        </button>
      </li>
    </ul>
    <template v-if="!fixed">
      <v-btn :disabled="!!progress" @click="input?.click()">{{
        progress ? `Sending ${progress.done + 1} of ${progress.of}…` : photos.length ? 'Add photos' : 'Add a photo'
      }}</v-btn>
      <input ref="input" type="file" accept="image/jpeg,image/png,image/webp,image/gif" multiple hidden data-photos @change="picked" />
    </template>
    <v-progress-linear v-if="progress" :model-value="(progress.done / progress.of) * 100" aria-label="Photos sent" height="3" />
    <p v-for="w in wrong" :key="w" class="wrong" role="alert">{{ w }}</p>
    <PhotoDialog v-if="shown" :id="shown" :device="device" :fixed="fixed" @show="shown = $event" @close="shown = ''" />
  </div>
</template>

<style scoped>
.photos.over {
  outline: 2px dashed var(--water);
  outline-offset: 4px;
}
ul {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 4px;
  margin: 4px 0 8px;
  list-style: none;
}
li button {
  display: block;
  width: 100%;
  aspect-ratio: 4 / 3;
  overflow: hidden;
  border: 1px solid var(--rule);
}
img {
  width: 100%;
  height: 100%;
  object-fit: cover;
}
.missing {
  display: grid;
  place-items: center;
  height: 100%;
  padding: 4px;
  font-size: 12px;
  color: var(--soft);
}
.wrong {
  margin-top: 6px;
  color: var(--red);
  overflow-wrap: anywhere;
}
</style>
