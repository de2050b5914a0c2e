<script setup lang="ts">
// A host as a plinth with its guests on it: what is left of its memory above them, or a
// red line where more is given than fitted.
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { high } from '../../draw/towers'
import { inGB, memoryWords, type HostRow, type TowerLens } from '../../work/useServices'
import GuestBlock from './GuestBlock.vue'

const props = defineProps<{
  host: HostRow
  lens: TowerLens
  perGB: number
  picked: string
  /** What it has for the guest that is on its way. */
  fits?: Schemas['FitsHere'] | undefined
  over: boolean
}>()
const emit = defineEmits<{
  pick: [id: string]
  lift: [id: string, e: DragEvent]
  drop: []
  over: [is: boolean]
  done: []
}>()
const running = computed(() => [...props.host.tower].filter((g) => g.running).reverse())
const stopped = computed(() => props.host.tower.filter((g) => !g.running))
const left = computed(() => props.host.left_bytes)
const more = computed(() => (left.value !== undefined && left.value < 0 ? -left.value : 0))
const px = (bytes: number, least = 0) => `${high(bytes, props.perGB, least)}px`
const memory = computed(() => {
  if (props.host.runs === 'plain' && !props.host.guests) return memoryWords(props.host.fitted_bytes)
  const taken = props.host.taken_bytes === undefined ? '?' : inGB(props.host.taken_bytes)
  return `${props.host.unsaid ? '≥ ' : ''}${taken} of ${memoryWords(props.host.fitted_bytes)}`
})
const cores = computed(() => {
  const of = props.host.threads ?? props.host.cores
  return `${props.host.vcpus ?? '?'} on ${of ?? '?'} ${props.host.threads === undefined ? 'cores' : 'threads'}`
})
const tells = computed(() => props.fits?.checks.filter((c) => !c.held || c.what === 'memory') ?? [])
const what = { hypervisor: 'hypervisor', containers: 'containers', plain: 'plain system' } as const
</script>

<template>
  <section
    class="host"
    :class="{ over, no: over && fits && !fits.fits, may: !!fits }"
    :aria-label="`${host.name}, ${memory}`"
    @dragover.prevent="emit('over', true)"
    @dragleave.self="emit('over', false)"
    @drop.prevent="emit('drop')">
    <ul v-if="stopped.length" class="stopped" :aria-label="`Not running on ${host.name}`">
      <GuestBlock
        v-for="g in stopped"
        :key="g.id"
        :guest="g"
        :lens="lens"
        :per-g-b="0"
        :picked="picked"
        @pick="emit('pick', $event)"
        @lift="(id, e) => emit('lift', id, e)"
        @done="emit('done')" />
    </ul>
    <div class="tower" :class="{ bare: !running.length && left === undefined }">
      <div v-if="left !== undefined && left > 0 && perGB" class="left" :style="{ height: px(left, 16) }">
        <span class="figure">{{ memoryWords(left) }} left</span>
      </div>
      <p v-if="more" class="more">{{ memoryWords(more) }} more than fitted</p>
      <i v-if="more && perGB" class="line" :style="{ top: `calc(18px + ${px(more)})` }" />
      <ul :aria-label="`On ${host.name}`">
        <GuestBlock
          v-for="g in running"
          :key="g.id"
          :guest="g"
          :lens="lens"
          :per-g-b="perGB"
          :picked="picked"
          @pick="emit('pick', $event)"
          @lift="(id, e) => emit('lift', id, e)"
          @done="emit('done')" />
      </ul>
      <div v-if="host.kept_bytes" class="kept" :style="perGB ? { height: px(host.kept_bytes, 18) } : {}">
        keeps <span class="figure">{{ memoryWords(host.kept_bytes) }}</span>
      </div>
    </div>
    <button class="plinth" :class="{ picked: picked === host.id }" :aria-pressed="picked === host.id" @click="emit('pick', host.id)">
      <b>{{ host.name }}</b>
      <small>{{ [host.runs ? what[host.runs] : 'unknown', host.state === 'running' ? '' : host.state].filter(Boolean).join(', ') }}</small>
      <span class="figure">{{ memory }}</span>
      <span class="figure">{{ cores }}</span>
    </button>
    <ul v-if="over && fits" class="checks" role="status">
      <li v-for="c in tells" :key="c.say" :class="{ bad: !c.held }">{{ c.say }}</li>
    </ul>
  </section>
</template>

<style scoped>
.host {
  position: relative;
  display: flex;
  flex: 0 0 auto;
  flex-direction: column;
  width: 161px;
}
.host :is(ul) {
  padding: 0;
  margin: 0;
  list-style: none;
}
.tower {
  position: relative;
  padding: 0 8px;
  border: dashed var(--soft);
  border-width: 1px 1px 0;
}
.tower.bare {
  min-height: 40px;
}
.host.may .tower {
  border-color: var(--ink);
}
.host.over .tower {
  background: color-mix(in srgb, var(--moss) 18%, transparent);
}
.host.no .tower {
  background: color-mix(in srgb, var(--red) 12%, transparent);
}
.stopped {
  padding: 0 8px 6px !important;
}
.left {
  display: grid;
  place-items: end start;
  padding: 0 4px;
  margin: 0 -8px;
  font-size: 12px;
  color: var(--soft);
  background: repeating-linear-gradient(135deg, transparent 0 7px, color-mix(in srgb, var(--soft) 28%, transparent) 7px 8px);
}
.left span {
  padding: 0 4px;
  background: var(--paper);
}
.more {
  height: 18px;
  margin: 0;
  font: 500 13px/18px var(--names);
  color: var(--red);
  text-align: right;
}
.line {
  position: absolute;
  right: -8px;
  left: -8px;
  z-index: 2;
  border-top: 2px solid var(--red);
  pointer-events: none;
}
.kept {
  display: flex;
  gap: 6px;
  align-items: flex-end;
  justify-content: space-between;
  padding: 0 8px;
  font-size: 12px;
  line-height: 18px;
  color: var(--soft);
  background: var(--strip);
}
.plinth {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 0 8px;
  padding: 6px 10px 7px;
  color: var(--sheet);
  text-align: left;
  background: var(--ink);
  border-radius: 2px;
}
.plinth b {
  font: 600 16px var(--names);
}
.plinth small {
  align-self: center;
  font: 400 12px var(--names);
}
.plinth .figure {
  grid-column: 1 / -1;
  font-size: 12px;
}
.plinth.picked {
  outline: 2px solid var(--red);
  outline-offset: 2px;
}
.checks {
  position: absolute;
  right: -8px;
  bottom: 62px;
  left: -8px;
  z-index: 3;
  padding: 6px 10px !important;
  background: var(--sheet);
  border: 1px solid var(--ink);
  font-size: 13px;
  pointer-events: none;
}
.bad {
  color: var(--red);
}
@media (max-width: 700px) {
  .host {
    flex-direction: column-reverse;
    width: auto;
  }
  .tower {
    padding: 0;
    border: 0;
  }
  .line,
  .left {
    display: none;
  }
  .more {
    padding: 4px 0;
    height: auto;
    text-align: left;
  }
  .stopped {
    order: -1;
    padding: 0 !important;
  }
  .plinth {
    min-height: 52px;
  }
}
</style>
