<script setup lang="ts">
// Gives a subnet another prefix, with everything that speaks of it, as one change:
// what it would change is listed first.
import { ref, watch } from 'vue'
import { latest } from '../../api/latest'
import { post, type Edit } from '../../api/client'
import { attempt, say, useLab } from '../../lab/useLab'
import EditList from '../rundown/EditList.vue'

const props = defineProps<{ subnet: string; cidr: string }>()
const emit = defineEmits<{ close: [] }>()
const { lab, send } = useLab()
const to = ref(props.cidr)
const edits = ref<Edit[]>([])
const wrong = ref('')
const { ask } = latest()
watch(to, (cidr) =>
  ask(
    () => post('/api/v1/network/renumber/check', { base_revision: lab.value?.revision ?? 0, subnet_id: props.subnet, cidr }),
    (answer) => {
      edits.value = answer.edits
      wrong.value = ''
    },
    (why) => {
      edits.value = []
      wrong.value = why
    },
  ),
)
const renumber = () =>
  attempt(async () => {
    await send('/api/v1/network/renumber', { subnet_id: props.subnet, cidr: to.value })
    say(`${props.cidr} is ${to.value} now; Ctrl+Z takes it back.`)
    emit('close')
  })
</script>

<template>
  <v-dialog :model-value="true" max-width="640" scrollable aria-label="Renumber" @update:model-value="emit('close')">
    <v-card border>
      <v-card-text>
        <h2>Renumber {{ cidr }}</h2>
        <p>Each address keeps its end. The gateway, ranges, names, routes and tunnels that speak of the subnet go along.</p>
        <form @submit.prevent="edits.length && renumber()">
          <v-text-field v-model="to" label="It becomes" autofocus density="compact" :error-messages="wrong ? [wrong] : []" />
          <EditList v-if="edits.length" :edits="edits" :mistakes="[]" />
          <p v-else-if="!wrong" class="soft">Type the prefix it is to have, such as 10.21.0.0/24.</p>
          <p class="buttons">
            <v-btn type="submit" :disabled="!edits.length">Renumber</v-btn>
            <v-btn variant="text" @click="emit('close')">Cancel</v-btn>
          </p>
        </form>
      </v-card-text>
    </v-card>
  </v-dialog>
</template>

<style scoped>
h2 {
  margin-bottom: 6px;
}
form {
  margin-top: 10px;
}
.buttons {
  display: flex;
  gap: 10px;
  margin-top: 12px;
}
</style>
