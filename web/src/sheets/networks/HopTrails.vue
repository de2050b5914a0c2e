<script setup lang="ts">
// What each hop of a way runs over: its trail through panels and plates.
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Way } from '../../lab/ways'
import HopTrail from './HopTrail.vue'

const props = defineProps<{ way: Way }>()
const emit = defineEmits<{ cable: [id: string] }>()
const room = ref<HTMLElement>()
const { width } = useElementSize(room)
const hops = computed(() =>
  props.way.hops.slice(0, -1).flatMap((h, i) =>
    h.cable_ids.map((cable, k) => ({
      cable,
      key: `${i} ${k}`,
      device: h.device_id,
      says: `${h.device} to ${props.way.hops[i + 1]?.device}`,
    })),
  ),
)
</script>

<template>
  <section v-if="hops.length" ref="room">
    <h2>What it runs over</h2>
    <template v-for="(h, i) in hops" :key="h.key">
      <p v-if="h.says !== hops[i - 1]?.says" class="soft">{{ h.says }}</p>
      <HopTrail v-if="width" :cable="h.cable" :from="h.device" :width="width" @pick="emit('cable', h.cable)" />
    </template>
  </section>
</template>

<style scoped>
p {
  margin-top: 6px;
}
</style>
