<script setup lang="ts">
// A way as a strip: each device, and between two of them what leads on, with the
// speed over it and its two ports below. What holds the way down is red.
import { computed } from 'vue'
import { speedWords } from '../../lab/trails'
import type { Way } from '../../lab/ways'

const props = defineProps<{ way: Way }>()
const emit = defineEmits<{ pick: [id: string]; cable: [id: string] }>()
const legs = computed(() =>
  props.way.hops.slice(0, -1).map((hop, i) => {
    const next = props.way.hops[i + 1]
    const many = hop.cable_ids.length
    const each = many > 1 && hop.out_mb !== undefined && hop.out_mb % many === 0
    const speed = hop.out_mb === undefined ? '?' : `${hop.at_most ? '≤ ' : ''}${speedWords(each ? hop.out_mb / many : hop.out_mb)}`
    return {
      hop,
      next,
      cable: hop.cable_ids[0],
      says: each ? `${many} × ${speed}` : speed,
      // The faster, the thicker, as on the map.
      thick: hop.out_mb === undefined ? 2 : 1.5 + Math.log10(hop.out_mb / 10) * 1.6,
      held: hop.out_mb !== undefined && hop.out_mb === props.way.speed_mb,
      ports: `${hop.out} – ${next?.in ?? ''}`,
    }
  }),
)
</script>

<template>
  <ol class="way" aria-label="Way">
    <li class="stop end">
      <button @click="emit('pick', way.hops[0]?.device_id ?? '')">{{ way.hops[0]?.device }}</button>
    </li>
    <template v-for="(l, i) in legs" :key="i">
      <li class="leg" :class="{ held: l.held, unknown: l.hop.out_mb === undefined }">
        <component :is="l.cable ? 'button' : 'span'" @click="l.cable && emit('cable', l.cable)">
          <span class="figure">{{ l.says }}</span>
          <svg height="12" width="100%" aria-hidden="true">
            <line x1="0" x2="100%" y1="6" y2="6" :stroke-width="l.thick" :stroke-dasharray="l.hop.air ? '2 5' : undefined" />
          </svg>
          <span class="figure ports">{{ l.ports }}</span>
        </component>
      </li>
      <li class="stop" :class="{ end: i === legs.length - 1 }">
        <button @click="emit('pick', l.next?.device_id ?? '')">{{ l.next?.device }}</button>
      </li>
    </template>
  </ol>
</template>

<style scoped>
.way {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  row-gap: 8px;
  padding: 0;
  list-style: none;
}
.stop button {
  padding: 4px 12px;
  font: 600 14px var(--names);
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--ink);
  border-radius: 3px;
}
.stop.end button {
  color: var(--paper);
  background: var(--ink);
}
.leg {
  flex: 0 1 150px;
  min-width: 92px;
}
.leg > * {
  display: block;
  width: 100%;
  text-align: center;
}
.leg svg {
  display: block;
}
line {
  stroke: var(--water);
}
.held line {
  stroke: var(--red);
}
.unknown line {
  stroke: var(--red);
  stroke-dasharray: 4 4;
}
.held .figure:not(.ports),
.unknown .figure:not(.ports) {
  color: var(--red);
}
.figure {
  display: block;
  font-size: 13px;
  line-height: 1.3;
}
.ports {
  font-size: 12px;
  color: var(--soft);
}
.leg button:hover line {
  stroke: var(--ink);
}
@media (max-width: 700px) {
  .way {
    flex-direction: column;
    align-items: stretch;
    max-width: 340px;
  }
  .leg {
    flex: none;
    padding-left: 22px;
    border-left: 3px solid var(--water);
    margin-left: 22px;
  }
  .leg.held {
    border-color: var(--red);
  }
  .leg > * {
    display: flex;
    gap: 12px;
    align-items: center;
    min-height: 44px;
  }
  .leg svg {
    display: none;
  }
  .stop button {
    width: 100%;
    min-height: 44px;
    text-align: left;
  }
}
</style>
