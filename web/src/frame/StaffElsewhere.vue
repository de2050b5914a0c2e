<script setup lang="ts">
// Below the staff: the other racks, the places with what is there, and what is
// not placed yet.
import { computed } from 'vue'
import type { Device } from '../api/client'
import { useLab } from '../lab/useLab'
import { whatIsShort, title } from '../lab/words'
import { useWork } from '../work/work'

const work = useWork()
const { lab, held, spaces, unplacedIds } = useLab()
const racks = computed(() => [...(lab.value?.racks.values() ?? [])].filter((r) => r.id !== work.rack?.id))
const places = computed(() =>
  [...(lab.value?.places.values() ?? [])]
    .map((p) => ({ ...p, things: held.value.get(p.id) ?? [] }))
    .filter((p) => p.things.length || p.id === work.placeId),
)
const bare = computed(() => [...(lab.value?.places.values() ?? [])].filter((p) => !held.value.get(p.id)?.length && p.id !== work.placeId))
const loose = computed(() => unplacedIds.value.flatMap((id) => lab.value?.devices.get(id) ?? []))

function pick(d: Device) {
  work.pick(d.id)
  work.cardOpen = true
}
</script>

<template>
  <template v-if="places.length || bare.length">
    <h2>Elsewhere</h2>
    <ul>
      <li v-for="p in places" :key="p.id">
        <button class="line" :class="{ here: p.id === work.placeId }" :data-drop-place="p.id" @click="work.pickPlace(p.id)">
          <span>{{ p.name }}</span><span class="count">{{ p.things.length }}</span>
        </button>
        <ul v-if="p.id === work.placeId" class="things">
          <li v-for="d in p.things" :key="d.id">
            <button
              class="thing"
              :class="{ picked: d.id === work.deviceId }"
              :aria-current="d.id === work.deviceId"
              :data-staff="d.id"
              @click="pick(d)">
              <b>{{ title(d) }}</b><span>{{ d.state === 'running' ? whatIsShort(d) : d.state }}</span>
            </button>
          </li>
        </ul>
      </li>
      <li v-for="p in bare" :key="p.id">
        <button class="line" :data-drop-place="p.id" @click="work.pickPlace(p.id)">
          <span>{{ p.name }}</span><span class="count">–</span>
        </button>
      </li>
    </ul>
  </template>
  <template v-if="racks.length">
    <h2>Other racks</h2>
    <ul>
      <li v-for="r in racks" :key="r.id">
        <button class="line" :data-drop-rack="r.id" @click="work.pickRack(r.id)">
          <span>{{ r.name }}</span><span class="count">{{ spaces.get(r.id)?.free_u }} U free</span>
        </button>
      </li>
    </ul>
  </template>
  <div v-if="loose.length" class="loose">
    <h2 data-drop-place="">Not placed yet</h2>
    <ul class="things">
      <li v-for="d in loose" :key="d.id">
        <button
          class="thing"
          :class="{ picked: d.id === work.deviceId }"
          :aria-current="d.id === work.deviceId"
          :data-staff="d.id"
          @click="pick(d)">
          <b>{{ title(d) }}</b><span>{{ d.takes_u ? `${d.takes_u}U` : whatIsShort(d) }}</span>
        </button>
      </li>
    </ul>
  </div>
</template>

<style scoped>
h2 {
  margin: 16px 0 3px;
  font-size: 14px !important;
  color: var(--soft);
}
ul {
  list-style: none;
}
.line,
.thing {
  display: flex;
  width: 100%;
  justify-content: space-between;
  padding: 1px 4px 1px 0;
  text-align: left;
  font-size: 14px;
}
.line:hover,
.line.here {
  color: var(--red);
}
.count {
  font: 500 13px var(--names);
}
.things {
  margin: 2px 0 4px;
  display: grid;
  gap: 2px;
}
.thing {
  padding: 1px 8px;
  background: var(--strip);
  border: 1px solid var(--rule);
  border-radius: 3px;
  font-size: 12px;
  align-items: center;
  color: var(--soft);
}
.thing b {
  font: 600 14px var(--names);
  color: var(--ink);
}
.thing.picked {
  background: var(--ink);
  color: var(--paper);
}
.thing.picked b {
  color: var(--paper);
}
/* The sheet shows what is not placed; a phone has no sheet. */
@media (min-width: 701px) {
  .loose {
    display: none;
  }
}
@media (max-width: 700px) {
  .line,
  .thing {
    min-height: 44px;
    align-items: center;
    font-size: 16px;
  }
}
</style>
