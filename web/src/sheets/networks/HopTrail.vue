<script setup lang="ts">
// The trail of one cable from a device, as it is drawn on the Cabling sheet.
import { computed } from 'vue'
import { api } from '../../api/address'
import { trailFrom } from '../../lab/trails'
import { useReport } from '../../lab/useReport'
import TrailStrip from '../cabling/TrailStrip.vue'

const props = defineProps<{ cable: string; from: string; width: number }>()
const emit = defineEmits<{ pick: [] }>()
const { data } = useReport(() => (props.cable ? api('/api/v1/cables/{id}/trail', { id: props.cable }) : ''))
const trail = computed(() => data.value && trailFrom(data.value, props.from))
</script>

<template>
  <TrailStrip v-if="trail && width > 24" :trail="trail" own="" :width="width" :most="trail.pieces.length" @pick="emit('pick')" />
</template>
