<script setup lang="ts">
// A pool to be made of the bays that are picked: what they would come to in each layout,
// and what it is to be called.
import { computed, nextTick, onMounted, ref } from 'vue'
import { api } from '../../api/address'
import { Refused } from '../../api/client'
import { useLab } from '../../lab/useLab'
import { useReport } from '../../lab/useReport'
import { bothWords, sizeWords } from '../../work/useStorage'

const props = defineProps<{ device: string; title: string; bays: number[] }>()
const emit = defineEmits<{ close: []; made: [name: string] }>()
const { lab, send } = useLab()
const { data } = useReport(() => api('/api/v1/reports/layouts', { device: props.device, bays: props.bays.join(',') }))
const usual: Record<number, string> = { 1: 'single', 2: 'mirror' }
const chosen = ref('')
const layout = computed(() => {
  const all = data.value?.layouts ?? []
  const wanted = chosen.value || (usual[props.bays.length] ?? (props.bays.length > 5 ? 'raid-z2' : 'raid-z1'))
  return all.find((l) => l.layout === wanted) ?? all[0]
})
const name = ref('')
const wrong = ref('')
const field = ref<HTMLInputElement>()
onMounted(() => nextTick(() => field.value?.focus()))
async function make() {
  wrong.value = ''
  const called = name.value.trim()
  if (!called) return void (wrong.value = 'Give it a name, such as hold.')
  try {
    const host = lab.value?.devices.get(props.device)?.name || props.title
    const set = `${layout.value?.layout} of ${data.value?.text}`
    await send('/api/v1/lines', { line: `pool ${JSON.stringify(called)} on ${JSON.stringify(host)}: ${set}` })
    emit('made', called)
  } catch (e) {
    if (!(e instanceof Refused)) throw e
    wrong.value = e.message
  }
}
</script>

<template>
  <form class="new" aria-label="A new pool" @submit.prevent="make" @keydown.esc.stop="emit('close')">
    <p>
      <b>{{ data?.text }} of {{ title }}</b>
      <span class="soft"> {{ data?.drives }}</span>
    </p>
    <fieldset>
      <legend class="sr-only">Layout</legend>
      <label v-for="l in data?.layouts ?? []" :key="l.layout" :class="{ on: l === layout }">
        <input type="radio" name="layout" :value="l.layout" :checked="l === layout" @change="chosen = l.layout" />
        <b>{{ l.words.split(' of ')[0] }}</b>
        <span class="figure">{{ l.usable_bytes === undefined ? 'room unknown' : bothWords(l.usable_bytes) }}</span>
        <span class="soft"
          >{{ l.may_fail_words }}<template v-if="l.unused_bytes">, {{ sizeWords(l.unused_bytes) }} unused</template></span
        >
      </label>
    </fieldset>
    <p class="go">
      <label>called <input ref="field" v-model="name" class="field" aria-label="Name of the pool" autocomplete="off" /></label>
      <v-btn type="submit" size="small" variant="flat" color="ink">Make the pool</v-btn>
      <v-btn size="small" @click="emit('close')">Leave it</v-btn>
      <span v-if="wrong" class="bad" role="alert">{{ wrong }}</span>
    </p>
  </form>
</template>

<style scoped>
.new {
  flex: none;
  padding: 8px 12px;
  background: var(--sheet);
  border: 1px solid var(--ink);
}
fieldset {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(330px, 1fr));
  gap: 0 18px;
  margin: 4px 0 8px;
  border: 0;
}
fieldset label {
  display: grid;
  grid-template-columns: auto 112px auto 1fr;
  gap: 6px;
  align-items: baseline;
  padding: 2px 4px;
  font-size: 13px;
}
fieldset label b {
  font: 500 14px var(--names);
}
.on {
  background: var(--strip);
}
.go {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
.go label {
  display: inline-flex;
  gap: 6px;
  align-items: center;
}
.go .field {
  width: 180px;
}
.bad {
  color: var(--red);
}
@media (max-width: 700px) {
  fieldset label {
    grid-template-columns: auto 1fr;
    min-height: 44px;
  }
}
</style>
