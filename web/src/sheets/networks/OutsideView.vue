<script setup lang="ts">
// The lines outside to scale, what stops without each of them, and what else leads in
// and out: what is open, tunnels, remote accesses, virtual routers and routes.
import { computed, shallowRef, watch } from 'vue'
import { api } from '../../api/address'
import { useReport } from '../../lab/useReport'
import { speedWords } from '../../lab/trails'
import IfGone from '../../card/IfGone.vue'
import OutsideList from './OutsideList.vue'

const emit = defineEmits<{ says: [text: string] }>()
const { data } = useReport(() => api('/api/v1/reports/lines'))
const widest = computed(() => Math.max(1, ...(data.value?.lines ?? []).flatMap((w) => [w.down_mb ?? 0, w.up_mb ?? 0])))
const part = (mb: number | null) => `${Math.max(1, (100 * (mb ?? 0)) / widest.value)}%`
const order = ['', 'first', 'second', 'third']
const when = (w: { order: number | null; site?: string; out?: boolean }) =>
  w.site ? `at ${w.site}` : w.out ? 'out' : w.order ? (order[w.order] ?? `${w.order}th`) : 'order not said'
const address: Record<string, string> = { fixed: 'fixed address', public: 'public address', shared: 'address shared by the provider' }
watch(data, (now) => emit('says', now?.price_month ? `${now.price_month} a month in all` : ''), { immediate: true })

const kinds = [
  { list: 'outside_lines', text: 'Lines', noun: 'lines', named: true },
  { list: 'openings', text: 'Open ports', noun: 'open ports', named: false },
  { list: 'tunnels', text: 'Tunnels', noun: 'tunnels', named: true },
  { list: 'remote_accesses', text: 'Remote access', noun: 'remote accesses', named: true },
  { list: 'virtual_routers', text: 'Virtual routers', noun: 'virtual routers', named: true },
  { list: 'routes', text: 'Routes', noun: 'routes', named: false },
] as const
const kind = shallowRef<(typeof kinds)[number]>(kinds[0])
</script>

<template>
  <div class="outside" data-scroll>
    <p v-if="data && !data.lines.length">
      No line outside yet. Type one above:
      <code class="figure">line "fibre line": fibre, 900M down, 200M up, fixed address, into gate/1, first, 38 a month</code>.
    </p>
    <ul v-else-if="data" class="lines" aria-label="Lines outside">
      <li v-for="w in data.lines" :key="w.id" :class="{ out: w.out, away: w.site }">
        <b>{{ w.name }}</b>
        <span class="soft">{{
          [w.medium, address[w.line_address ?? ''], w.into && `into ${w.into}`].filter(Boolean).join(', ') || 'nothing else is said'
        }}</span>
        <span class="when">{{ when(w) }}</span>
        <span class="bars">
          <span class="down"
            ><i :style="{ width: part(w.down_mb) }" :class="{ asked: w.down_mb === null }" />{{
              w.down_mb === null ? 'down unknown' : `${speedWords(w.down_mb)} down`
            }}</span
          >
          <span class="up"
            ><i :style="{ width: part(w.up_mb) }" :class="{ asked: w.up_mb === null }" />{{
              w.up_mb === null ? 'up unknown' : `${speedWords(w.up_mb)} up`
            }}</span
          >
        </span>
        <span class="open">{{ w.opens.length ? `open: ${w.opens.join(', ')}` : w.closed ? 'nothing open' : '' }}</span>
        <div v-if="!w.site && !w.out" class="gone"><IfGone :record="{ kind: 'line', id: w.id }" plain /></div>
        <span class="figure price">{{ w.price_month }}</span>
      </li>
    </ul>
    <nav class="segments" aria-label="What is listed">
      <button v-for="k in kinds" :key="k.list" :aria-pressed="kind === k" @click="kind = k">{{ k.text }}</button>
    </nav>
    <OutsideList :key="kind.list" :list="kind.list" :noun="kind.noun" :named="kind.named" />
  </div>
</template>

<style scoped>
.outside {
  display: flex;
  flex: 1;
  flex-direction: column;
  gap: 8px;
  min-height: 0;
  margin: 0 18px 10px;
  overflow: auto;
}
.lines {
  padding: 4px 14px;
  background: var(--sheet);
  border: 1px solid var(--ink);
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: auto 1fr auto auto;
  gap: 0 12px;
  align-items: baseline;
  padding: 7px 0;
}
li + li {
  border-top: 1px solid var(--rule);
}
li b {
  font: 600 15px var(--names);
}
.when {
  font: 500 14px var(--names);
}
.price {
  grid-row: 1;
  grid-column: 4;
  min-width: 56px;
  text-align: right;
}
.bars {
  grid-column: 1 / -1;
  font: 400 13px var(--figures);
}
.bars span {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 120px;
  gap: 8px;
  align-items: center;
}
.bars i {
  display: block;
  height: 7px;
  background: var(--water);
}
.up i {
  height: 4px;
  background: var(--pale);
}
.asked {
  background: none !important;
  border: 1px dashed var(--red);
}
.out,
.away {
  color: var(--soft);
}
.out i,
.away i {
  opacity: 0.45;
}
.open,
.gone {
  grid-column: 1 / -1;
  font-size: 13px;
}
.open:empty {
  display: none;
}
nav {
  align-self: flex-start;
  margin-top: 6px;
}
@media (max-width: 700px) {
  .outside {
    margin: 0 10px 6px;
  }
  nav {
    max-width: 100%;
  }
  li {
    grid-template-columns: 1fr auto;
  }
  li .soft {
    grid-column: 1 / -1;
    grid-row: 2;
  }
  .price {
    grid-row: 2;
    grid-column: 2;
  }
}
</style>
