<script setup lang="ts">
// The frame's top: the mark, the sheets, the quick line, undo and redo, and
// which lab is looked at. The bar take what they need and the quick line the
// rest; where that is too little they lose their keys, and then they fold into
// the list that the mark opens.
import { mdiMagnify, mdiRedoVariant, mdiUndoVariant } from '@mdi/js'
import { useElementSize } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useLab } from '../lab/useLab'
import { useActions } from '../work/useActions'
import { useWork } from '../work/work'
import LabMenu from './LabMenu.vue'
import QuickLine from './QuickLine.vue'
import { sheets, useSheet } from './sheets'
import { usePhone } from '../work/usePhone'

const { lab } = useLab()
const { undo, redo } = useActions()
const { sheet } = useSheet()
const work = useWork()
const phone = usePhone()

/** The least that the quick line is given, and what a key's figure takes. */
const leastLine = 150
const figure = 11
const top = ref<HTMLElement>()
const bar = ref<HTMLElement>()
const ends = ref<HTMLElement>()
const { width: whole } = useElementSize(top, { width: window.innerWidth - 28, height: 46 })
const { width: named } = useElementSize(bar, { width: sheets.length * 72, height: 46 })
const { width: right } = useElementSize(ends, { width: 220, height: 32 })
/** Whether the bar have their keys, and whether they are folded into the list. */
const keyed = ref(true)
const tight = ref(false)
watch(
  [whole, named, right],
  () => {
    const room = whole.value - right.value - leastLine - 60
    const bare = named.value - (keyed.value ? sheets.length * figure : 0)
    keyed.value = bare + sheets.length * figure <= room
    tight.value = bare > room
  },
  { immediate: true },
)
const folded = computed(() => phone.value || tight.value)
/** While something is typed in it, the line grows over the bar until it is wide enough for a line. */
const enough = 640
const over = computed(() =>
  folded.value ? 0 : Math.max(0, Math.min(named.value, enough - (whole.value - right.value - named.value - 60))),
)
</script>

<template>
  <header class="top">
    <div ref="top" class="in">
      <v-menu location="bottom start">
        <template #activator="{ props: opener }">
          <button v-bind="opener" class="mark" :aria-label="folded ? `${sheet?.name ?? 'Levelstaff'}: all sheets` : 'All sheets'">
            <svg width="17" height="26" viewBox="6 0 12 24" aria-hidden="true">
              <rect x="7" y="1" width="10" height="22" class="rod" />
              <path d="M7 3h5v3H7zM12 6h5v3h-5zM7 9h5v3H7z" class="ink" />
              <path d="M12 12h5v3h-5zM7 15h5v3H7zM12 18h5v3h-5z" class="red" />
            </svg>
            <span v-if="folded">{{ sheet?.name ?? 'Levelstaff' }} ▾</span>
          </button>
        </template>
        <v-card class="list">
          <nav aria-label="All sheets">
            <router-link v-for="s in sheets" :key="s.path" :to="s.path" :class="{ apart: s.apart, here: s === sheet }"
              >{{ s.name }} <kbd>{{ s.key.toUpperCase() }}</kbd></router-link
            >
          </nav>
        </v-card>
      </v-menu>
      <div class="room" :class="{ folded }">
        <nav ref="bar" class="bar" aria-label="Sheets" :inert="folded">
          <router-link
            v-for="s in sheets"
            :key="s.path"
            :to="s.path"
            :class="{ apart: s.apart, here: s === sheet }"
            :aria-keyshortcuts="s.key"
            ><small v-if="keyed" aria-hidden="true">{{ s.key.toUpperCase() }}</small
            >{{ s.name }}</router-link
          >
        </nav>
      </div>
      <QuickLine v-if="!phone" class="line" :style="{ '--over': `${over}px` }" />
      <span v-else class="spring" />
      <div ref="ends" class="ends">
        <v-btn
          :icon="mdiMagnify"
          size="32"
          variant="text"
          title="Find anything (/)"
          aria-label="Find"
          aria-keyshortcuts="/"
          @click="((work.query = ''), (work.dialog = 'find'))" />
        <v-btn
          :icon="mdiUndoVariant"
          size="32"
          variant="text"
          :disabled="!lab?.undo || lab.view.kind === 'past'"
          :title="lab?.undo ? `Undo: ${lab.undo} (Ctrl+Z)` : 'Nothing to undo'"
          aria-label="Undo"
          @click="undo" />
        <v-btn
          :icon="mdiRedoVariant"
          size="32"
          variant="text"
          :disabled="!lab?.redo || lab.view.kind === 'past'"
          :title="lab?.redo ? `Redo: ${lab.redo} (Ctrl+Shift+Z)` : 'Nothing to redo'"
          aria-label="Redo"
          @click="redo" />
        <LabMenu />
      </div>
    </div>
  </header>
</template>

<style scoped>
.top {
  height: 46px;
  padding: 0 14px;
  background: var(--sheet);
  border-bottom: 2px solid var(--ink);
}
.in {
  display: flex;
  align-items: center;
  gap: 8px;
  height: 100%;
}
.mark {
  display: flex;
  align-items: center;
  gap: 7px;
  padding: 6px 4px;
  font: 600 16px var(--names);
  white-space: nowrap;
}
.rod {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.2;
}
.ink {
  fill: var(--ink);
}
.red {
  fill: var(--red);
}
.room {
  align-self: stretch;
  display: flex;
}
/* Kept where they can be measured, so that they come back when they fit. */
.folded {
  position: absolute;
  visibility: hidden;
}
.bar {
  display: flex;
  flex: none;
}
.bar a {
  display: flex;
  align-items: center;
  padding: 0 7px;
  font: 500 15px var(--names);
  color: var(--soft);
  text-decoration: none;
  white-space: nowrap;
  border-bottom: 3px solid transparent;
  margin-bottom: -2px;
}
.bar a.here {
  color: var(--ink);
  border-bottom-color: var(--red);
}
.bar a.apart {
  margin-left: 9px;
  padding-left: 13px;
  background: linear-gradient(var(--rule), var(--rule)) 0 50% / 1px 22px no-repeat;
}
.bar small {
  align-self: flex-start;
  width: 9px;
  margin: 8px 2px 0 0;
  font: 400 12px/1 var(--figures);
}
.line {
  min-width: 150px;
  transition: margin-left 120ms;
}
.line:focus-within:has(input:not(:placeholder-shown)) {
  z-index: 5;
  margin-left: calc(-1 * var(--over));
}
.ends {
  display: flex;
  flex: none;
  align-items: center;
  gap: 4px;
}
.spring {
  flex: 1;
}
.list nav {
  display: grid;
  min-width: 190px;
  padding: 6px 0;
}
.list a {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 24px;
  min-height: 36px;
  padding: 0 16px;
  font: 500 16px var(--names);
  color: var(--ink);
  text-decoration: none;
}
.list a:hover,
.list a.here {
  background: var(--strip);
}
.list a.here {
  box-shadow: inset 3px 0 var(--red);
}
.list a.apart {
  border-top: 1px solid var(--rule);
}
kbd {
  font: 400 13px var(--figures);
  color: var(--soft);
}
@media (prefers-reduced-motion: reduce) {
  .line {
    transition: none;
  }
}
@media (max-width: 700px) {
  .top {
    height: 52px;
    padding: 0 8px;
  }
  .mark {
    min-height: 44px;
  }
  .list a {
    min-height: 46px;
  }
  .list kbd {
    display: none;
  }
}
</style>
