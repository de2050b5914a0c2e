<script setup lang="ts">
// A spirit level's vial: liquid up to what is used, hatching for what is not
// known, a red line at the limit. In a draft, a ghost between how full it is as
// built and how full it will be.
import { computed, useId } from 'vue'

const props = defineProps<{
  name: string
  used: number
  of?: number
  unit: string
  unknown?: number
  atLeast?: boolean
  limit?: boolean
  /** The part of the whole that it should stay under. */
  line?: number
  note?: string
  before?: number
}>()
const id = useId()
const width = 176
/** With a limit, the vial shows a quarter more than it, so that too much can be seen. */
const whole = computed(() => (props.of ?? 0) * (props.limit ? 1.25 : 1))
const at = (v: number) => (whole.value ? Math.min(1, v / whole.value) * width : 0)
const hatch = computed(() => (props.unknown ? Math.min(width - at(props.used), 10 + props.unknown * 3) : 0))
/** At least nothing is not worth saying: it is unknown. */
const none = computed(() => props.atLeast && props.used === 0)
const rest = computed(() => (props.of === undefined ? props.unit : `of ${props.of} ${props.unit}`))
const said = computed(() => {
  const used = none.value ? 'unknown' : `${props.atLeast ? 'at least ' : ''}${props.used}`
  return `${used}${props.of === undefined ? ', of unknown' : ` of ${props.of}`} ${props.unit}`
})
/** How much more or less than as built. */
const by = computed(() => {
  const more = props.before === undefined ? 0 : Math.round((props.used - props.before) * 10) / 10
  return more ? `${more > 0 ? '+' : '−'}${Math.abs(more)}` : ''
})
const over = computed(() => props.of !== undefined && (props.limit || props.line) && props.used > props.of * (props.line ?? 1))
</script>

<template>
  <div class="level" role="img" :aria-label="`${name}: ${said}${by ? `, ${by} by the draft` : ''}${note ? `, ${note}` : ''}`" :title="note">
    <span class="name">{{ name }}</span>
    <span class="text" :class="{ over }"
      ><i v-if="none" class="unknown">?</i><template v-else>{{ atLeast ? '≥' : '' }}{{ used }}</template> {{ rest
      }}<b v-if="by" class="by">{{ by }}</b
      ><template v-if="of === undefined"> of <i class="unknown">?</i></template></span
    >
    <svg :width="width" height="16" :viewBox="`0 0 ${width} 16`" aria-hidden="true">
      <defs>
        <clipPath :id="`${id}c`"><rect x="0.75" y="1.75" :width="width - 1.5" height="12.5" rx="6.25" /></clipPath>
        <pattern :id="`${id}h`" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0v5" class="stroke" />
        </pattern>
      </defs>
      <g :clip-path="`url(#${id}c)`">
        <rect width="100%" height="16" class="glass" />
        <rect :width="at(used)" height="16" class="liquid" />
        <rect :width="at(used)" y="2" height="4" class="shine" />
        <rect
          v-if="by && before !== undefined"
          :x="at(Math.min(before, used))"
          :width="Math.max(2, Math.abs(at(used) - at(before)))"
          y="1.75"
          height="12.5"
          class="ghost" />
        <rect v-if="hatch" :x="at(used)" :width="hatch" height="16" :fill="`url(#${id}h)`" />
      </g>
      <rect x="0.75" y="1.75" :width="width - 1.5" height="12.5" rx="6.25" class="rim" />
      <path v-if="line && of !== undefined" :d="`M${at(of * line)} 0v16`" class="limit" />
      <path v-if="limit && of !== undefined" :d="`M${at(of)} 0v16`" class="limit" />
    </svg>
  </div>
</template>

<style scoped>
.level {
  display: grid;
  grid-template-columns: auto auto;
  justify-content: space-between;
  column-gap: 8px;
  min-width: 176px;
  flex: none;
}
svg {
  grid-column: 1 / -1;
  margin-top: 2px;
}
.name {
  font: 500 13px var(--names);
}
.text {
  font: 400 12px/1.6 var(--figures);
  white-space: nowrap;
  color: var(--soft);
}
.text.over {
  color: var(--red);
}
.text i {
  font-style: normal;
  padding: 0 3px;
}
.by {
  margin-left: 5px;
  font-weight: 500;
  color: var(--red);
}
.ghost {
  fill: color-mix(in srgb, var(--sheet) 80%, var(--red));
  stroke: var(--red);
  stroke-dasharray: 3 2;
}
.glass {
  fill: var(--strip);
}
.liquid {
  fill: var(--pale);
}
.shine {
  fill: var(--sheet);
  opacity: 0.35;
}
.stroke {
  stroke: var(--soft);
  stroke-width: 1.6;
}
.rim {
  fill: none;
  stroke: var(--ink);
}
.limit {
  stroke: var(--red);
  stroke-width: 2;
}
</style>
