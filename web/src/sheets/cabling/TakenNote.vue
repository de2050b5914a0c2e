<script setup lang="ts">
// Another cable is in the port that one was to go to: who has it, and the two
// may change places.
import { useCabling } from '../../work/useCabling'
import { useWork } from '../../work/work'

const work = useWork()
const { endWords, ledFrom, swapLed } = useCabling()
function show() {
  const end = work.taken?.end
  if (!end) return
  work.leading = false
  work.pick(end.device_id)
  work.port = end
}
</script>

<template>
  <p v-if="work.taken" class="taken" role="alert">
    <b>{{ endWords(work.taken.end) }}</b> is taken: {{ work.taken.why }}. <button v-if="ledFrom()" @click="swapLed">Swap the two</button>
    <button @click="show">Show it</button>
  </p>
</template>

<style scoped>
.taken {
  margin-top: 6px;
}
.taken button {
  text-decoration: underline;
}
</style>
