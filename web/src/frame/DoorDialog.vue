<script setup lang="ts">
// Who gets in: whether there is a passphrase, who is signed in, and the tokens
// that scripts have.
import { computed, onMounted, ref, shallowRef } from 'vue'
import { api } from '../api/address'
import { del, get, post, Refused, type Schemas } from '../api/client'
import { useWork } from '../work/work'

const work = useWork()
const sessions = shallowRef<Schemas['Sessions']>()
const tokens = shallowRef<Schemas['Token'][]>([])
const name = ref('')
const may = ref<Schemas['May']>('read')
const made = shallowRef<Schemas['MadeToken']>()
const wrong = ref('')
const when = (at?: string) =>
  at
    ? new Date(at).toLocaleString('en-GB', { day: 'numeric', month: 'short', year: 'numeric', hour: '2-digit', minute: '2-digit' })
    : 'never'
const locked = computed(() => sessions.value?.locked)

async function tried(what: () => Promise<unknown>) {
  wrong.value = ''
  try {
    await what()
  } catch (e) {
    if (!(e instanceof Refused)) throw e
    wrong.value = e.message
  }
}

const read = () =>
  tried(async () => {
    const [s, t] = await Promise.all([get(api('/api/v1/sessions')), get(api('/api/v1/tokens'))])
    sessions.value = s
    tokens.value = t.tokens
  })
onMounted(read)

const make = () =>
  tried(async () => {
    made.value = await post('/api/v1/tokens', { name: name.value, may: may.value })
    name.value = ''
    await read()
  })
const end = (id: string) =>
  tried(async () => {
    await del('/api/v1/tokens/{id}', { id })
    await read()
  })
const leave = (all: boolean) =>
  tried(async () => {
    if (all) await del('/api/v1/sessions')
    else await post('/api/v1/sign-out', {})
    location.assign('/sign-in')
  })
</script>

<template>
  <v-dialog aria-label="Access" :model-value="true" max-width="600" @update:model-value="work.dialog = ''">
    <v-card border class="box">
      <h2>Access</h2>
      <p v-if="locked === false">
        There is no passphrase, so anyone on this machine has access and nobody else can connect. Stop the server and set one with
        <code class="figure">levelstaff passphrase</code> to give other machines access.
      </p>
      <template v-else-if="sessions">
        <table>
          <thead>
            <tr>
              <th>Signed in from</th>
              <th>Since</th>
              <th>Last seen</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="s in sessions.sessions" :key="s.made_at + s.from_ip" :title="s.browser">
              <td class="figure">{{ s.from_ip }}</td>
              <td>{{ when(s.made_at) }}</td>
              <td>{{ when(s.seen_at) }}</td>
            </tr>
          </tbody>
        </table>
        <div class="buttons">
          <v-btn size="small" @click="leave(false)">Sign out</v-btn>
          <v-btn size="small" variant="text" @click="leave(true)">Sign everyone out</v-btn>
        </div>
      </template>
      <h2>Tokens for scripts</h2>
      <p v-if="!tokens.length" class="soft">None. A script sends one as <code class="figure">Authorization: Bearer …</code></p>
      <table v-else>
        <tbody>
          <tr v-for="t in tokens" :key="t.id">
            <td>
              <b>{{ t.name }}</b>
            </td>
            <td>{{ t.may === 'read' ? 'may read' : 'full access' }}</td>
            <td class="soft">used {{ when(t.seen_at) }}</td>
            <td><button class="quiet" @click="end(t.id)">Revoke</button></td>
          </tr>
        </tbody>
      </table>
      <p v-if="made" class="made">
        Copy it now; it will not be shown again: <code class="figure" data-secret>{{ made.secret }}</code>
      </p>
      <form class="new" @submit.prevent="make">
        <input v-model="name" aria-label="What the token is for" placeholder="what it is for" maxlength="80" autocomplete="off" />
        <select v-model="may" aria-label="What it may do">
          <option value="read">may read</option>
          <option value="full">full access</option>
        </select>
        <v-btn size="small" type="submit" :disabled="!name.trim()">Make a token</v-btn>
      </form>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <div class="buttons"><v-btn variant="text" @click="work.dialog = ''">Close</v-btn></div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.box {
  padding: 18px;
}
h2:not(:first-child) {
  margin-top: 18px;
}
table {
  width: 100%;
  margin-top: 4px;
  border-collapse: collapse;
  font-size: 14px;
}
th {
  text-align: left;
  font: 500 13px var(--names);
  color: var(--soft);
}
td {
  padding: 3px 8px 3px 0;
  border-bottom: 1px solid var(--rule);
}
.new,
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 10px;
}
input,
select {
  height: 32px;
  padding: 0 9px;
  color: var(--ink);
  background: var(--paper);
  border: 1px solid var(--soft);
  border-radius: 3px;
}
input {
  flex: 1;
}
.made {
  margin-top: 10px;
  padding: 8px 10px;
  border: 1px dashed var(--red);
}
.made code {
  display: block;
  overflow-wrap: anywhere;
  user-select: all;
}
.quiet {
  text-decoration: underline;
}
.wrong {
  margin-top: 8px;
  color: var(--red);
}
</style>
