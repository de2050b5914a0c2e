<script setup lang="ts">
// A device's face with its ports as one would plug into them: what is in each
// in its jacket's colour, the number where nothing is. While a cable is being
// led, ports that it could go into are framed, the others are dim and say why.
import { computed } from 'vue'
import type { Device, Schemas } from '../../api/client'
import { specOf } from '../../draw/faceParts'
import { useLab } from '../../lab/useLab'
import { title } from '../../lab/words'
import { useWork } from '../../work/work'
import { endOf, jackWords, keyOfJack, sameEnd, useCabling, type Jack } from '../../work/useCabling'

const props = defineProps<{
  device: Device
  jacks: Jack[]
  face?: Schemas['Face']
  partners?: Map<string, Schemas['Partner']>
  small?: boolean
}>()
const work = useWork()
const { lab } = useLab()
const { pickJack } = useCabling()

const end = (j: Jack) => endOf(props.device.id, j)
const partner = (j: Jack) => (work.leading ? props.partners?.get(keyOfJack(props.device.id, j)) : undefined)
interface Group {
  key: string
  jacks: Jack[]
  rows: number
  /** Numbered down each column, rather than along each row. */
  down: boolean
}
const groups = computed<Group[]>(() => {
  const list = new Map<string, Group>()
  for (const j of props.jacks) {
    if (props.face && j.face !== props.face) continue
    const key = `${j.group}${j.rear ? 'r' : ''}`
    const g = list.get(key)
    if (g) g.jacks.push(j)
    else list.set(key, { key, jacks: [j], rows: 1, down: false })
  }
  const spec = lab.value ? specOf(props.device, lab.value.spec_sheets) : undefined
  for (const g of list.values()) {
    const of = spec?.ports?.[g.jacks[0]?.group ?? -1]
    g.rows = of?.rows ?? (g.jacks.length > 12 ? 2 : 1)
    g.down = of?.numbering === 'down'
  }
  return [...list.values()]
})
const wide = computed(() => groups.value.reduce((n, g) => n + Math.ceil(g.jacks.length / g.rows), 0))
const isLong = (j: Jack) => j.port.length > 3 && (j.family === 'other' || !j.cable_id)
/** Its columns: narrower where many ports share the room, wider for names. */
function laid(g: Group) {
  const column = g.jacks.some(isLong) ? 'auto' : 'minmax(22px, 28px)'
  if (g.down) return { gridAutoFlow: 'column', gridAutoColumns: column, gridTemplateRows: `repeat(${g.rows}, auto)` }
  return { gridTemplateColumns: `repeat(${Math.ceil(g.jacks.length / g.rows)}, ${column})` }
}
const shown = (j: Jack) => (j.cable_id || j.broken ? '' : j.port)
const says = (j: Jack) => jackWords(props.device, j, partner(j))
function along(event: KeyboardEvent) {
  const by = { ArrowRight: 1, ArrowLeft: -1 }[event.key]
  if (!by) return
  const all = [...(event.currentTarget as HTMLElement).querySelectorAll<HTMLElement>('button')]
  const next = all[all.indexOf(document.activeElement as HTMLElement) + by]
  if (!next) return
  event.preventDefault()
  event.stopPropagation()
  next.focus()
}
</script>

<template>
  <section
    class="face"
    :class="{ small, crowded: wide > 18 }"
    :aria-label="`Ports of ${title(device)}${face === 'rear' ? ', rear' : ''}`"
    @keydown="along">
    <b class="name">{{ title(device) }}<i v-if="face === 'rear'"> rear</i></b>
    <div class="groups">
      <div v-for="g in groups" :key="g.key" class="group" :class="g.jacks[0]?.family" :style="laid(g)">
        <button
          v-for="j in g.jacks"
          :key="j.port + j.rear"
          class="jack"
          :class="{
            lit: j.trail && j.trail === work.lit,
            picked: sameEnd(work.port, end(j)),
            broken: j.broken,
            kept: j.reserved_for,
            may: work.leading && partner(j) && !partner(j)?.why,
            not: work.leading && partner(j)?.why && !sameEnd(work.port, end(j)),
            long: isLong(j),
          }"
          :data-jack="`${title(device)}/${j.port}${j.rear ? ' rear' : ''}`"
          :aria-label="says(j)"
          :aria-pressed="sameEnd(work.port, end(j))"
          :title="says(j)"
          @click="pickJack(device.id, j, partner(j))"
          @pointerenter="work.lit = j.trail ?? ''"
          @pointerleave="work.lit = ''"
          @focus="work.lit = j.trail ?? ''"
          @blur="work.lit = ''">
          <span v-if="j.family === 'other' && j.cable_id" class="named" :style="j.hex ? { borderColor: j.hex } : undefined">{{
            j.port
          }}</span>
          <i v-else-if="j.cable_id" class="plug" :class="{ plain: !j.hex }" :style="j.hex ? { background: j.hex } : undefined" />
          <span v-else>{{ j.broken ? '×' : shown(j) }}</span>
          <small v-if="j.cable_id && j.family !== 'other'" class="number">{{ j.port }}</small>
        </button>
      </div>
      <p v-if="!groups.length" class="none">No ports documented{{ face ? ' at this face' : '' }}</p>
    </div>
  </section>
</template>

<style scoped>
.face {
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 7px 12px;
  background: var(--boxdim);
  border: 1px solid var(--boxedge);
  border-radius: 3px;
}
.name {
  flex: none;
  min-width: 84px;
  max-width: 120px;
  font: 600 16px/1.2 var(--names);
  color: var(--boxink);
}
.name i {
  font-style: normal;
  font-weight: 500;
  font-size: 13px;
  opacity: 0.85;
}
.groups {
  display: flex;
  flex-wrap: wrap;
  flex: 1;
  gap: 8px 22px;
  align-items: center;
  justify-content: flex-end;
}
.group {
  display: grid;
  gap: 5px;
}
.jack {
  display: grid;
  place-items: center;
  width: 28px;
  height: 23px;
  font: 400 12px/1 var(--figures);
  color: var(--boxink);
  background: var(--boxdark);
  border: 1px solid var(--boxline);
  border-radius: 2px;
}
/* Many ports side by side share what room there is. */
.crowded .groups {
  gap: 8px 14px;
  min-width: 0;
}
.crowded .group {
  gap: 5px 2px;
  min-width: 0;
}
.crowded .jack {
  width: auto;
}
.jack.long {
  width: auto;
  min-width: 28px;
  padding: 0 5px;
}
.cage .jack {
  height: 19px;
  width: 30px;
}
.outlet .jack,
.inlet .jack {
  border-color: var(--brass);
}
.plug {
  width: 66%;
  height: 60%;
  border: 1px solid color-mix(in srgb, var(--boxink) 45%, transparent);
}
/* An undocumented port has no place on the face: it goes by its name. */
.named {
  border-bottom: 4px solid var(--soft);
}
.plug.plain {
  background: repeating-linear-gradient(45deg, var(--soft) 0 2px, var(--box) 2px 4px);
}
.jack.lit {
  border-color: var(--paper);
  box-shadow: 0 0 0 2px var(--paper);
}
.jack.picked {
  border-color: var(--red);
  box-shadow: 0 0 0 2px var(--red);
}
.jack.broken {
  color: var(--red);
  border-color: var(--red);
}
.jack.kept {
  border-style: dashed;
}
.jack.may {
  background: var(--water);
  color: var(--paper);
  border-color: var(--paper);
}
.jack.not {
  background: none;
  border-style: dotted;
}
.not .plug {
  opacity: 0.4;
}
.none {
  color: var(--boxink);
  font-size: 13px;
}
.small {
  padding: 4px 10px;
  border-radius: 2px;
}
.small .name {
  font-size: 14px;
}
/* Where ports stand in rows of six, their numbers are hard to count. */
.number {
  display: none;
}
@media (max-width: 700px) {
  .number {
    display: block;
    font-size: 12px;
  }
  .face {
    display: block;
  }
  .groups {
    justify-content: flex-start;
    margin-top: 6px;
  }
  .group {
    grid-auto-flow: row !important;
    grid-template-columns: repeat(6, 44px) !important;
    grid-template-rows: none !important;
  }
  .jack,
  .cage .jack {
    align-content: center;
    gap: 3px;
    width: 44px;
    height: 44px;
  }
  .plug {
    height: 14px;
  }
}
</style>
