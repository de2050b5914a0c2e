<script setup lang="ts">
// All racks side by side to one scale, 19- and 10-inch alike.
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
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
/** A unit that is lower cannot be read. */
const legible = 12
const scale = computed(() => {
  const beyond = (r: Rack) =>
    new Set(
      props.held
        .get(r.id)
        ?.map((d) => d.at?.where)
        .filter((w) => w === 'top' || w === 'under'),
    ).size * 1.7
  const tallest = Math.max(1, ...racks.value.map((r) => r.height_u + beyond(r)))
  const wide = racks.value.reduce((sum, r) => sum + faceMM(r), 0)
  const down = (props.height - 60) / (tallest * unitMM)
  const across = (props.width - racks.value.length * beside) / Math.max(1, wide)
  // More racks than there is width for are scrolled rather than drawn too small to read.
  return Math.min(0.95, Math.max(0.16, across * unitMM < legible ? down : Math.min(down, across)) * props.zoom)
})

/** Kept as long as they stand, so that a rack is not drawn again with the next one. */
const marks = computed(() => new Map(compared.value ? racks.value.map((r) => [r.id, marksOf(compared.value, r.id)]) : []))

/** Two are drawn at once, and one more in each frame: a row of twenty is there without a pause. */
const drawn = ref(2)
let frame = 0
const more = () => {
  if (++drawn.value < racks.value.length) frame = requestAnimationFrame(more)
}
onMounted(() => (frame = requestAnimationFrame(more)))
onBeforeUnmount(() => cancelAnimationFrame(frame))
</script>

<template>
  <div class="row">
    <RackDrawing
      v-for="r in racks.slice(0, drawn)"
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
      :marks="marks.get(r.id)"
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
