<script setup lang="ts">
// One rack as a slim list to scale: each thing as high as the units it takes,
// free pieces between, the graduation at the left.
import { useElementSize } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { api } from '../api/address'
import type { Device, Piece, Rack } from '../api/client'
import GraduatedScale from '../draw/GraduatedScale.vue'
import { shareOf } from '../draw/scale'
import { useFindings } from '../lab/useFindings'
import { useLab } from '../lab/useLab'
import { useReport } from '../lab/useReport'
import { count, whatIsShort, title, unitNumber, whatIs } from '../lab/words'
import { useWork } from '../work/work'
import { usePhone } from '../work/usePhone'

const props = defineProps<{ rack: Rack }>()
const work = useWork()
const { lab, held, spaces } = useLab()
const phone = usePhone()
const { asks } = useFindings()
const list = ref<HTMLElement>()
const { width } = useElementSize(list)

const unit = computed(() => (phone.value ? 46 : Math.max(21, Math.min(28, Math.floor((window.innerHeight - 300) / props.rack.height_u)))))
const inRack = computed(() => held.value.get(props.rack.id) ?? [])
const mounted = computed(() => inRack.value.filter((d) => d.at?.where === 'units'))
/** What stands on shelves and lies in drawers, then what hangs at the sides, on top and under. */
const also = computed(() => inRack.value.flatMap((d) => [...(d.at?.where === 'units' ? [] : [d]), ...(held.value.get(d.id) ?? [])]))
const numbers = computed(() =>
  Array.from({ length: props.rack.height_u }, (_, i) => (lab.value ? unitNumber(lab.value, props.rack, props.rack.height_u - i) : 0)),
)

/** Two things in the same units share the width: front left, rear right. */
function place(d: Device) {
  const [from, to] = shareOf(d.at?.share)
  const meets = mounted.value.some(
    (o) =>
      o.id !== d.id &&
      o.at?.face !== d.at?.face &&
      (o.at?.unit ?? 0) < (d.at?.unit ?? 0) + (d.takes_u ?? 1) &&
      (d.at?.unit ?? 0) < (o.at?.unit ?? 0) + (o.takes_u ?? 1),
  )
  const half = meets ? 0.5 : 1
  const start = meets && d.at?.face === 'rear' ? 0.5 : 0
  const units = d.takes_u ?? 1
  return {
    top: `${(props.rack.height_u - (d.at?.unit ?? 1) - units + 1) * unit.value}px`,
    height: `${units * unit.value - 2}px`,
    left: `${(start + from * half) * width.value}px`,
    width: `${(to - from) * half * width.value - 2}px`,
  }
}
const pieceStyle = (p: Piece) => ({
  top: `${(props.rack.height_u - p.unit - p.units + 1) * unit.value}px`,
  height: `${p.units * unit.value - 2}px`,
})
const pieces = computed(() => spaces.value.get(props.rack.id)?.pieces ?? [])
/** On a phone, where one stands in front of it, how many facts of a thing are missing. */
const { data: walk } = useReport(() => (phone.value ? api('/api/v1/walk', { rack_id: props.rack.id }) : ''))
const gaps = computed(() => {
  const counts = new Map<string, number>()
  for (const g of walk.value?.gaps ?? []) counts.set(g.device_id, (counts.get(g.device_id) ?? 0) + 1)
  return counts
})
const holds = (d: Device) => held.value.get(d.id)?.length ?? 0
const isPicked = (d: Device) => d.id === work.deviceId
const holdsPicked = (d: Device) => (held.value.get(d.id) ?? []).some(isPicked)
const state = (d: Device) => (d.state === 'running' ? '' : d.state)

function pick(d: Device, event: MouseEvent) {
  if (event.ctrlKey || event.metaKey) return work.pickAlso(d.id)
  if (event.shiftKey) return work.pickTo(d.id)
  work.pick(d.id)
  work.cardOpen = true
}

function start(p: Piece) {
  work.line = `${p.range} `
  document.getElementById('quick-line')?.focus()
}

watch(
  () => work.deviceId,
  async () => {
    await nextTick()
    list.value?.closest('nav')?.querySelector('[aria-current=true]')?.scrollIntoView({ block: 'nearest' })
  },
)
</script>

<template>
  <div class="rod">
    <svg :width="46" :height="rack.height_u * unit" class="scale">
      <GraduatedScale :units="rack.height_u" :unit="unit" :x="26" :y="0" :width="phone ? 18 : 13" />
    </svg>
    <ol class="numbers" aria-hidden="true">
      <li v-for="(n, i) in numbers" :key="n" :style="{ top: `${i * unit}px`, lineHeight: `${unit}px` }">
        {{ unit < 24 && n % 2 && n !== 1 ? '' : n }}
      </li>
    </ol>
    <div ref="list" class="list" :style="{ height: `${rack.height_u * unit}px` }">
      <button
        v-for="d in mounted"
        :key="d.id"
        class="item"
        :class="[d.state, { picked: isPicked(d) || work.also.includes(d.id), holds: holdsPicked(d) }]"
        :style="place(d)"
        :aria-current="isPicked(d)"
        :data-staff="d.id"
        @click="pick(d, $event)">
        <b>{{ title(d) }}</b>
        <span
          ><i v-if="asks.get(d.id)" class="asks" :class="asks.get(d.id)" :title="`a finding: ${asks.get(d.id)}`" />{{
            state(d) || (holds(d) ? count(holds(d)) : d.name ? whatIsShort(d) : '')
          }}<em v-if="gaps.get(d.id)" :aria-label="`${gaps.get(d.id)} facts missing`">?{{ gaps.get(d.id) }}</em></span
        >
      </button>
      <button
        v-for="p in pieces"
        :key="`free ${p.unit}`"
        class="piece"
        :style="pieceStyle(p)"
        :aria-label="`${p.range}: ${p.units}U free, put something here`"
        @click="start(p)">
        {{ p.units }}U free <i>+</i>
      </button>
    </div>
  </div>
  <ul v-if="also.length" class="rest" aria-label="On shelves and around the rack">
    <li v-for="d in also" :key="d.id">
      <button
        class="small"
        :class="[d.state, { picked: isPicked(d) }]"
        :aria-current="isPicked(d)"
        :data-staff="d.id"
        :title="`${title(d)}, ${whatIs(d)}`"
        @click="pick(d, $event)">
        <b>{{ title(d) }}</b><i v-if="asks.get(d.id)" class="asks" :class="asks.get(d.id)" :title="`a finding: ${asks.get(d.id)}`" />
      </button>
    </li>
  </ul>
</template>

<style scoped>
.rod {
  position: relative;
  display: grid;
  grid-template-columns: 44px 1fr;
}
.scale {
  grid-column: 1;
}
.numbers {
  position: absolute;
  left: 0;
  top: 0;
  width: 21px;
  list-style: none;
}
.numbers li {
  position: absolute;
  right: 0;
  font: 400 12px var(--figures);
  color: var(--soft);
}
.item em {
  margin-left: 8px;
  padding: 0 5px;
  font: 400 12px var(--figures);
  color: var(--red);
  background: var(--sheet);
  border: 1px dashed var(--red);
  border-radius: 3px;
}
.list {
  position: relative;
  grid-column: 2;
}
.item,
.piece,
.small {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 6px;
  padding: 0 8px;
  border-radius: 3px;
  overflow: hidden;
  white-space: nowrap;
  text-align: left;
  font-size: 12px;
}
.item,
.piece {
  position: absolute;
}
.item,
.small {
  background: var(--strip);
  border: 1px solid var(--rule);
  color: var(--soft);
}
.item b,
.small b {
  font: 600 14px var(--names);
  color: var(--ink);
  overflow: hidden;
  text-overflow: ellipsis;
}
.asks {
  display: inline-block;
  width: 9px;
  height: 9px;
  margin-right: 5px;
  background: var(--brass);
  clip-path: polygon(50% 0, 100% 100%, 0 100%);
}
.asks.act {
  background: var(--red);
  clip-path: polygon(50% 0, 100% 50%, 50% 100%, 0 50%);
}
.item.faulty,
.small.faulty {
  border-right: 4px solid var(--red);
}
.item.holds {
  outline: 1px solid var(--red);
}
.item.picked,
.small.picked {
  background: var(--ink);
  color: var(--paper);
}
.item.picked b,
.small.picked b {
  color: var(--paper);
}
.piece {
  left: 0;
  right: 2px;
  color: var(--soft);
  border: 1px dashed var(--rule);
  font: 500 13px var(--names);
}
.piece i {
  font-style: normal;
}
.piece:hover {
  border-color: var(--red);
}
.rest {
  list-style: none;
  margin: 8px 0 0;
  display: flex;
  flex-wrap: wrap;
  gap: 3px;
}
.small {
  min-height: 21px;
  padding: 0 6px;
}
.small b {
  font-size: 13px;
}
@media (max-width: 700px) {
  .item b,
  .small b {
    font-size: 17px;
  }
  .item,
  .piece,
  .small {
    font-size: 14px;
    padding: 0 12px;
  }
  .small {
    min-height: 44px;
  }
  .rest {
    margin-left: 54px;
  }
}
</style>
