<script setup lang="ts">
// The frame's top: the mark, the sheets, the quick line, undo and redo, and
// which lab is looked at.
import { mdiMagnify, mdiRedoVariant, mdiUndoVariant } from '@mdi/js'
import { useMediaQuery } from '@vueuse/core'
import { useLab } from '../lab/useLab'
import { useActions } from '../work/useActions'
import { useWork } from '../work/work'
import LabMenu from './LabMenu.vue'
import QuickLine from './QuickLine.vue'
import { sheets } from './sheets'

const { lab } = useLab()
const { undo, redo } = useActions()
const work = useWork()
const phone = useMediaQuery('(max-width: 700px)')
</script>

<template>
  <header class="top">
    <router-link to="/" class="mark" aria-label="Levelstaff, to the rack">
      <svg width="17" height="26" viewBox="6 0 12 24" aria-hidden="true">
        <rect x="7" y="1" width="10" height="22" class="rod" />
        <path d="M7 3h5v3H7zM12 6h5v3h-5zM7 9h5v3H7z" class="ink" />
        <path d="M12 12h5v3h-5zM7 15h5v3H7zM12 18h5v3h-5z" class="red" />
      </svg>
      <span v-if="!phone">Levelstaff</span>
    </router-link>
    <nav class="tabs" aria-label="Sheets">
      <router-link v-for="s in sheets" :key="s.path" :to="s.path" active-class="here" :aria-keyshortcuts="s.key">
        <small aria-hidden="true">{{ s.key.toUpperCase() }}</small>{{ s.name }}
      </router-link>
    </nav>
    <QuickLine v-if="!phone" />
    <span v-else class="spring" />
    <v-btn :icon="mdiMagnify" size="32" variant="text" title="Find anything (/)" aria-label="Find" aria-keyshortcuts="/" @click="((work.query = ''), (work.dialog = 'find'))" />
    <v-btn :icon="mdiUndoVariant" size="32" variant="text" :disabled="!lab?.undo || lab.view.kind === 'past'" :title="lab?.undo ? `Undo: ${lab.undo} (Ctrl+Z)` : 'Nothing to undo'" aria-label="Undo" @click="undo" />
    <v-btn :icon="mdiRedoVariant" size="32" variant="text" :disabled="!lab?.redo || lab.view.kind === 'past'" :title="lab?.redo ? `Redo: ${lab.redo} (Ctrl+Shift+Z)` : 'Nothing to redo'" aria-label="Redo" @click="redo" />
    <LabMenu />
  </header>
</template>

<style scoped>
.top {
  display: flex;
  align-items: center;
  gap: 4px;
  height: 46px;
  padding: 0 14px;
  background: var(--sheet);
  border-bottom: 2px solid var(--ink);
}
.mark {
  display: flex;
  align-items: center;
  gap: 9px;
  margin-right: 18px;
  font: 600 18px var(--names);
  color: var(--ink);
  text-decoration: none;
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
.tabs {
  display: flex;
  align-self: stretch;
  margin-right: 14px;
}
.tabs a {
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 0 9px;
  font: 500 15px var(--names);
  color: var(--soft);
  text-decoration: none;
  border-bottom: 3px solid transparent;
  margin-bottom: -2px;
}
.tabs a.here {
  color: var(--ink);
  border-bottom-color: var(--red);
}
.tabs small {
  font: 400 12px var(--figures);
}
.spring {
  flex: 1;
}
@media (max-width: 700px) {
  .top {
    height: 52px;
    padding: 0 8px;
  }
  .mark {
    margin-right: 6px;
  }
  .tabs small {
    display: none;
  }
  .tabs {
    margin-right: 0;
    overflow-x: auto;
    scrollbar-width: none;
  }
  .tabs a {
    margin-bottom: 0;
  }
}
</style>
