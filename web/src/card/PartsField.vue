<script setup lang="ts">
// Where one types what is inside: "4x 8TB hdd, 2x 8-core".
import { nextTick, ref } from 'vue'
import { Refused } from '../api/client'
import { say, useLab } from '../lab/useLab'

const props = defineProps<{ device: string }>()
const { send } = useLab()
const line = ref('')
const wrong = ref('')
const input = ref<HTMLInputElement>()

async function keep() {
  if (!line.value.trim()) return
  try {
    const delta = await send('/api/v1/devices/{id}/parts', { text: line.value }, { id: props.device })
    line.value = ''
    wrong.value = ''
    if (delta.label) say(delta.label)
  } catch (e) {
    if (!(e instanceof Refused)) throw e
    wrong.value = e.message
  }
}

function start(text: string) {
  line.value = text
  wrong.value = ''
  void nextTick(() => input.value?.focus())
}
defineExpose({ start })
</script>

<template>
  <div class="put">
    <input
      ref="input"
      v-model="line"
      class="figure"
      aria-label="Put in"
      placeholder="put in 4x 8TB hdd, 2x 8-core"
      autocomplete="off"
      spellcheck="false"
      :aria-invalid="!!wrong"
      @keydown.enter.prevent="keep"
      @keydown.esc="((line = ''), (wrong = ''))" />
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
  </div>
</template>

<style scoped>
.put {
  margin-top: 8px;
}
input {
  width: 100%;
  height: 32px;
  padding: 0 8px;
  color: var(--ink);
  background: var(--strip);
  border: 1px solid var(--rule);
  border-radius: 3px;
}
input::placeholder {
  color: var(--soft);
  opacity: 1;
}
.wrong {
  font-size: 13px;
  color: var(--red);
}
@media (max-width: 700px) {
  input {
    height: 44px;
    font-size: 16px;
  }
}
</style>
