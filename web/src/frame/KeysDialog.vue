<script setup lang="ts">
// The keys of this sheet.
import { useWork } from '../work/work'
import { sheets } from './sheets'

const work = useWork()
const keys = [
  ...sheets.map((s) => [s.key, `open ${s.name}`]),
  ['↑ ↓', 'along the staff'],
  ['[ ]', 'the rack before, the next rack'],
  ['Shift + ↑ ↓', 'move what is picked to the next units it fits'],
  ['Shift + ← →', 'from the front to the rear, and back'],
  ['Alt + ↑ ↓', 'change places with what is above or below'],
  ['Shift + + −', 'take a unit more, a unit less'],
  ['h', 'take the whole width, a half, a third'],
  ['Ctrl + D', 'copy to the next free place'],
  ['Ctrl + click', 'pick one more; with Shift, all up to there'],
  ['while dragging', 'h: whole, half, third; Alt: change places'],
  ['Enter', 'to the card of what is picked'],
  ['/', 'find anything'],
  ['.', 'to the quick line; Tab takes what it offers'],
  ['← →', 'from port to port on a face; Enter picks one'],
  ['Shift + click', 'on the map of the network: the way there from what is picked; also Shift + Enter'],
  ['c', 'connect a cable from the picked port'],
  ['Delete', 'remove what is picked; unplug what is in the port'],
  ['Ctrl + .', 'in a line: take the word that was meant'],
  ['Ctrl + Enter', 'on the Rundown sheet: apply the text'],
  ['Ctrl + F', 'in the text of the lab: search and replace'],
  ['Ctrl + Z', 'undo; with Shift, redo'],
  ['Esc', 'let go'],
  ['?', 'these keys'],
]
</script>

<template>
  <v-dialog aria-label="Keys" :model-value="work.dialog === 'keys'" @update:model-value="work.dialog = ''" max-width="460" scrollable>
    <v-card border class="box">
      <h2>Keys</h2>
      <v-card-text class="list" tabindex="0">
        <table>
          <tbody>
            <tr v-for="[key, what] in keys" :key="key">
              <th scope="row">
                <kbd>{{ key }}</kbd>
              </th>
              <td>{{ what }}</td>
            </tr>
          </tbody>
        </table>
      </v-card-text>
      <div class="done">
        <v-btn autofocus @click="work.dialog = ''">Close</v-btn>
        <v-btn variant="text" @click="work.dialog = 'notation'">How lines are written</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.box {
  padding: 18px;
}
.list {
  letter-spacing: normal;
  margin-top: 8px;
  padding: 0;
}
th {
  text-align: left;
  padding: 3px 16px 3px 0;
  white-space: nowrap;
}
kbd {
  font: 400 13px var(--figures);
}
.done {
  display: flex;
  gap: 8px;
  margin-top: 14px;
}
</style>
