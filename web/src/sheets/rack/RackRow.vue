<script setup lang="ts">
// All racks side by side to one scale, 19- and 10-inch alike.
import { computed } from 'vue'
import type { Device, Rack, Space } from '../../api/client'
import { marksOf } from '../../draw/marks'
import { faceMM, unitMM } from '../../draw/scale'
import { useLab, type LabState } from '../../lab/useLab'
import type { Drag } from '../../work/work'
import RackDrawing from './RackDrawing.vue'

const props = defineProps<{
  lab: LabState
  held: Map<string, Device[]>
  spaces: Map<string, Space>
  width: number
  height: number
  picked: string
  also: string[]
  ghosts: Device[]
  drag?: Drag
  zoom: number
}>()
const emit = defineEmits<{ pick: [id: string]; lift: [device: Device, event: PointerEvent]; free: [rack: Rack, range: string] }>()

const { compared } = useLab()
const racks = computed(() => [...props.lab.racks.values()])
/** Room beside a face: posts, graduation, numbers, the gap to the next rack. */
const beside = 110
const scale = computed(() => {
  const tallest = Math.max(1, ...racks.value.map((r) => r.height_u + 2))
  const wide = racks.value.reduce((sum, r) => sum + faceMM(r), 0)
  const down = (props.height - 60) / (tallest * unitMM)
  const across = (props.width - racks.value.length * beside) / Math.max(1, wide)
  return Math.min(0.95, Math.max(0.16, Math.min(down, across)) * props.zoom)
})
</script>

<template>
  <div class="row">
    <RackDrawing
      v-for="r in racks"
      :key="r.id"
      :lab="lab"
      :rack="r"
      :held="held"
      :space="spaces.get(r.id)"
      :width="width"
      :height="height"
      showing="front"
      :picked="picked"
      :also="also"
      :ghosts="ghosts"
      :marks="marksOf(compared, r.id)"
      :drag="drag"
      :fixed="scale"
      @pick="emit('pick', $event)"
      @lift="(d, e) => emit('lift', d, e)"
      @free="emit('free', r, $event)" />
  </div>
</template>

<style scoped>
.row {
  display: flex;
  align-items: flex-end;
  gap: 14px;
  min-width: min-content;
}
</style>
