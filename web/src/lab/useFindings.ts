// What the checks notice in the lab that is looked at, asked again after every
// change, and which things open findings are about.
import { computed, shallowRef, watch } from 'vue'
import { api } from '../api/address'
import { get, Refused, type Finding } from '../api/client'
import { say, useLab } from './useLab'

const findings = shallowRef<Finding[]>([])
const { lab } = useLab()

async function ask() {
  try {
    findings.value = (await get(api('/api/v1/reports/findings'))).findings
  } catch (e) {
    if (!(e instanceof Refused)) throw e
    say(e.message, true)
  }
}

watch(
  () => lab.value && `${lab.value.revision} ${lab.value.view.kind} ${lab.value.view.draft_id} ${lab.value.view.revision}`,
  (now) => now && void ask(),
  { immediate: true },
)

export const isOpen = (f: Finding) => !f.accepted || !!f.again

const order = ['note', 'watch', 'act'] as const

/** The most that is asked for about each thing, by its id; notes ask for nothing. */
const asks = computed(() => {
  const most = new Map<string, 'watch' | 'act'>()
  for (const f of findings.value) {
    const id = f.records[0]?.id
    if (!id || f.level === 'note' || !isOpen(f)) continue
    if (order.indexOf(f.level) > order.indexOf(most.get(id) ?? 'note')) most.set(id, f.level)
  }
  return most
})

const counts = computed(() => {
  const open = findings.value.filter(isOpen)
  return {
    act: open.filter((f) => f.level === 'act').length,
    watch: open.filter((f) => f.level === 'watch').length,
    note: open.filter((f) => f.level === 'note').length,
  }
})

export const useFindings = () => ({ findings, asks, counts })
