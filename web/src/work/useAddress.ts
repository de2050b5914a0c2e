// The address says which lab is looked at, what is picked, and on a phone
// whether its card is open: reload, a tab that was dropped and a link lead to the
// same place, and Back goes step by step.
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, watch } from 'vue'
import { useRoute, useRouter, type LocationQueryRaw } from 'vue-router'
import { view, type Key } from '../api/client'
import { attempt, look, useLab } from '../lab/useLab'
import { useDrafts } from './useDrafts'
import { useShow } from './useShow'
import { useWork } from './work'
import { usePhone } from './usePhone'
import { picked, pickedKinds, pickedOn } from './usePicked'

/** What an address can name for the card; the first that is there. */
const kinds: Key['kind'][] = ['device', 'rack', 'place', 'cable', 'subnet', ...pickedKinds]

export function useAddress() {
  const { lab } = useLab()
  const work = useWork()
  const route = useRoute()
  const router = useRouter()
  const phone = usePhone()
  const { pick } = useShow()
  const { choose } = useDrafts()

  const here = pickedOn(() => `/${route.path.split('/')[1]}`)
  /** The part of the address that what is looked at and picked make up. */
  const says = computed<LocationQueryRaw>(() => {
    const query: LocationQueryRaw = {}
    if (view.value) query['view'] = view.value
    if (work.deviceId) query['device'] = work.deviceId
    else if (here.value) query[here.value.kind] = here.value.id
    else if (work.placeId) query['place'] = work.placeId
    else if (work.rackId) query['rack'] = work.rackId
    if (phone.value && work.cardOpen) query['card'] = '1'
    return query
  })
  const same = (query: LocationQueryRaw) =>
    JSON.stringify(Object.entries(query).sort()) === JSON.stringify(Object.entries(route.query).sort())

  // The first address, Back and Forward say everything; a link only what it is about.
  let whole = true
  useEventListener(window, 'popstate', () => (whole = true))
  let following = false
  /** The last step was one along the staff by key; a run of these is one step back. */
  let stepping = false

  /** The address that was last made of what is picked, which need not be followed. */
  let mine = ''

  // On the way to another page, that page says the rest. A step that this one
  // overtook ends while it is still under way.
  let heading = ''
  router.beforeEach((to) => void (heading = to.path))
  router.afterEach((to) => void (heading = to.path === heading ? '' : heading))
  router.onError(() => void (heading = ''))
  const leaving = () => heading !== '' && heading !== route.path

  async function follow() {
    if (!lab.value || (route.fullPath === mine && !whole)) return
    following = true
    const { query } = route
    if (whole) {
      const then = String(query['view'] ?? '')
      if (then !== view.value) await attempt(async () => void (await look(then)))
      Object.assign(work, { deviceId: '', placeId: '', rackId: '', also: [] })
      picked.value = undefined
    }
    for (const kind of kinds) if (query[kind]) pick({ kind, id: String(query[kind]) })
    if (query['draft']) await choose(String(query['draft']))
    if (whole) work.cardOpen = query['card'] === '1'
    whole = false
    await nextTick()
    following = false
    // A link says what it is about; the address says the rest too.
    // Whoever has stepped along the staff meanwhile comes back to it, though.
    const stepped = work.stepping
    stepping = stepped
    work.stepping = false
    if (!query['cable']) await go(!stepped)
  }
  watch([() => route.fullPath, () => !!lab.value], () => void follow(), { immediate: true })

  let turn = Promise.resolve()

  /** One step after the other: one that overtook another would take its place in the history. */
  function go(instead: boolean) {
    turn = turn
      .catch(() => undefined)
      .then(async () => {
        if (leaving() || same(says.value)) return
        const to = { path: route.path, query: says.value }
        mine = router.resolve(to).fullPath
        await (instead ? router.replace(to) : router.push(to))
        await nextTick()
      })
    return turn
  }

  /** What is picked is about to be told, once for all that changes until then. */
  let about = false
  watch(says, async () => {
    if (following || about) return
    about = true
    await new Promise((done) => setTimeout(done)) // whoever picks something may be about to leave
    about = false
    if (following || leaving() || !lab.value || same(says.value)) return
    const further = stepping && work.stepping
    stepping = work.stepping
    work.stepping = false
    await go(further)
  })
}
