<script setup lang="ts">
// What a device draws or gives, where it has to do with power.
import { computed } from 'vue'
import { usePower } from '../work/usePower'
import PowerFacts from './PowerFacts.vue'

const props = defineProps<{ device: string }>()
const { byId } = usePower()
const node = computed(() => byId.value.get(props.device))
const known = computed(
  () => node.value && (node.value.fed_by.length || node.value.kind !== 'device' || node.value.watts.typical !== undefined),
)
</script>

<template>
  <PowerFacts v-if="node && known" :node="node" />
</template>
