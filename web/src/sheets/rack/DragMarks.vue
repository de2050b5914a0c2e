<script setup lang="ts">
// While something is dragged: at the posts, where it would fit; under the
// pointer, the units it would take and why not.
import { computed } from 'vue'
import type { Device, Face, Rack, Slot } from '../../api/client'
import type { Box } from '../../draw/scale'
import type { LabState } from '../../lab/useLab'
import { title } from '../../lab/words'
import type { Drag, OverUnits } from '../../work/work'

const props = defineProps<{
  drag: Drag
  lab: LabState
  rack: Rack
  faces: Face[]
  boxAt: (face: Face | undefined, unit: number, takes: number, share?: OverUnits['share']) => Box | undefined
}>()

const slots = computed(() => props.drag.slots.get(props.rack.id) ?? [])
const takes = computed(() => props.drag.device.takes_u ?? 1)

/** Each unit of each face, and whether the thing could take it. */
const rows = computed(() =>
  props.faces.flatMap((face) => {
    const units = (of: Slot[]) =>
      new Set(of.filter((s) => s.fits && s.face === face).flatMap((s) => Array.from({ length: takes.value }, (_, i) => s.unit + i)))
    const fits = units(slots.value)
    const well = units(slots.value.filter((s) => s.measures !== 'no'))
    return Array.from({ length: props.rack.height_u }, (_, i) => ({
      key: `${face}${i + 1}`,
      fits: fits.has(i + 1),
      sign: !fits.has(i + 1) ? 'no' : well.has(i + 1) ? 'yes' : 'tight',
      box: props.boxAt(face, i + 1, 1),
    }))
  }),
)

/** How it fits there, the measures counted. */
function fitWords(slot: Slot, several: boolean): string {
  if (slot.measures === 'no') return `here: ${slot.lacks}`
  const fits = several ? 'fit' : 'fits'
  return slot.measures === 'unchecked' ? `${fits}; ${slot.lacks}` : fits
}

/** Why it does not, and whether changing places would do. */
function wayOut(slot: Slot, trades: boolean, device: Device): string {
  if (trades) return `${title(device)} changes places: ${slot.why}`
  return `${slot.why}${slot.swap ? ' · Alt: change places' : ''}`
}

const target = computed(() => {
  const { over, device, swap } = props.drag
  if (!over || !('unit' in over) || over.rack !== props.rack.id) return undefined
  const slot = slots.value.find((s) => s.unit === over.unit && s.face === over.face && s.share === over.share)
  const box = props.boxAt(over.face, over.unit, takes.value, over.share)
  if (!slot || !box) return undefined
  const others = props.drag.with.slice(1)
  const more = others.length ? ` and ${others.length} more` : ''
  const trades = !slot.fits && swap && !!slot.swap
  const say = slot.fits ? `${title(device)}${more} ${fitWords(slot, !!more)}` : wayOut(slot, trades, device)
  return {
    ok: slot.fits || trades,
    fits: slot.fits,
    tight: slot.fits && slot.measures === 'no',
    box,
    say,
    others: others.flatMap((d) => otherBox(over, d)),
  }
})

/** Where another thing goes that keeps its distance from the one that is held. */
function otherBox(over: OverUnits, d: Drag['device']): Box[] {
  const [held, at] = [props.drag.device.at, d.at]
  if (held?.where !== 'units' || at?.where !== 'units' || held.rack_id !== at.rack_id) return []
  const face = at.face === held.face ? over.face : over.face === 'front' ? 'rear' : 'front'
  const box = props.boxAt(face, over.unit + (at.unit ?? 1) - (held.unit ?? 1), d.takes_u ?? 1, at.share)
  return box ? [box] : []
}
</script>

<template>
  <g class="drag">
    <template v-for="r in rows" :key="r.key">
      <rect v-if="r.box" :x="r.box.x - 6" :y="r.box.y + 1" width="5" :height="r.box.h - 2" :class="r.sign" :data-room="r.fits" />
    </template>
    <g v-if="target" class="target" :class="{ no: !target.ok, tight: target.tight }" data-target :data-fits="target.fits">
      <rect v-for="(b, i) in target.others" :key="i" :x="b.x" :y="b.y" :width="b.w" :height="b.h" rx="2" />
      <rect :x="target.box.x" :y="target.box.y" :width="target.box.w" :height="target.box.h" rx="2" />
      <text :x="target.box.x + 14" :y="target.box.y + target.box.h / 2">{{ target.say }}</text>
    </g>
  </g>
</template>

<style scoped>
.drag {
  pointer-events: none;
}
.yes {
  fill: var(--moss);
}
.tight:not(g) {
  fill: var(--brass);
}
.no:not(g) {
  fill: none;
  stroke: var(--red);
  stroke-width: 1;
  stroke-dasharray: 2 2;
}
.target rect {
  fill: color-mix(in srgb, var(--sheet) 82%, var(--moss));
  stroke: var(--moss);
  stroke-width: 1.5;
  stroke-dasharray: 5 3;
}
.target.tight rect {
  fill: color-mix(in srgb, var(--sheet) 82%, var(--brass));
  stroke: var(--brass);
}
.target.no rect {
  fill: color-mix(in srgb, var(--sheet) 82%, var(--red));
  stroke: var(--red);
}
text {
  font: 600 13px var(--names);
  fill: var(--ink);
  dominant-baseline: central;
}
</style>
