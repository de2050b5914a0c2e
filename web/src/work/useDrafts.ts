// The drafts there are, the one that is chosen, and what comes of its steps.
import { computed, shallowRef, watch } from 'vue'
import { api } from '../api/address'
import { get, Refused, type Draft, type DraftEffect } from '../api/client'
import { attempt, look, useLab } from '../lab/useLab'
import { today } from '../lab/words'

const { lab, send, add } = useLab()
const effect = shallowRef<DraftEffect>()
const chosenId = computed(() => (lab.value?.view.kind === 'draft' ? (lab.value.view.draft_id ?? '') : ''))
const chosen = computed(() => lab.value?.drafts.get(chosenId.value))
const drafts = computed(() => [...(lab.value?.drafts.values() ?? [])])

export async function effectOf(id: string): Promise<DraftEffect | undefined> {
  try {
    return await get(api('/api/v1/drafts/{id}/effect', { id }))
  } catch (e) {
    if (!(e instanceof Refused)) throw e
    return undefined // thrown away meanwhile
  }
}

// Asked again after every change: the lab may have moved on under the draft.
watch(
  () => [chosenId.value, lab.value?.revision] as const,
  async ([id]) => {
    const is = id ? await effectOf(id) : undefined
    if (id === chosenId.value) effect.value = is
  },
)

const choose = (id: string) => attempt(async () => void (await look(id ? `draft:${id}` : '')))

/** A name that no draft has yet. */
function freeName(like: string): string {
  const taken = new Set(drafts.value.map((d) => d.name.toLowerCase()))
  let name = like
  for (let n = 2; taken.has(name.toLowerCase()); n++) name = `${like} ${n}`
  return name
}

/** Begins a draft and chooses it. */
async function begin(name = freeName('New draft')) {
  let id = ''
  await attempt(async () => {
    const delta = await send('/api/v1/changes', { changes: [add({ kind: 'draft', name, begun_on: today() })] })
    id = delta.drafts?.[0]?.id ?? ''
    return delta
  })
  if (id) await choose(id)
  return id
}

const tick = (id: string, steps: string[]) => attempt(() => send('/api/v1/drafts/{id}/done', { step_ids: steps }, { id }))
const reorder = (id: string, steps: string[]) => attempt(() => send('/api/v1/drafts/{id}/order', { step_ids: steps }, { id }))
const copy = (d: Draft) => attempt(() => send('/api/v1/drafts/{id}/copy', { name: freeName(`${d.name} copy`) }, { id: d.id }))

/** Throws a draft away with its steps; undo brings it back. */
async function discard(d: Draft) {
  if (chosenId.value === d.id) await choose('')
  const steps = [...(lab.value?.steps.values() ?? [])].filter((s) => s.draft_id === d.id)
  const removes = [...steps.map((s) => ({ remove: { kind: 'step' as const, id: s.id } })), { remove: { kind: 'draft' as const, id: d.id } }]
  await attempt(() => send('/api/v1/changes', { label: `draft “${d.name}” thrown away`, changes: removes }))
}

const removeStep = (id: string) => attempt(() => send('/api/v1/changes', { changes: [{ remove: { kind: 'step', id } }] }))

export const useDrafts = () => ({ effect, chosenId, chosen, drafts, choose, begin, tick, reorder, copy, discard, removeStep })
