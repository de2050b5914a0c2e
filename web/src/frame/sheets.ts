// The sheets there are, in the order of the top bar. The router, the bar, the
// keys and the list of sheets on a phone are made from this table, and so are a
// sheet's own tabs, whether its card is beside it, and its levels at the foot.
import { computed, defineAsyncComponent, type Component } from 'vue'
import { useRoute, type RouteComponent } from 'vue-router'
import RackSheet from '../sheets/rack/RackSheet.vue'

/** One of several views of a sheet; the first one of a sheet has no path of its own. */
export interface Tab {
  path: string
  text: string
  /** What it is called on a phone, where the staff is shown in its place. */
  phone?: string
  /** What is shown, where the sheet does not draw it itself. */
  is?: Component
  /** It needs the room of the staff. */
  wide?: boolean
}

/** A capacity of which the foot can show how full it is. */
export type Level = 'space' | 'weight' | 'ports' | 'bays' | 'racks' | 'network' | 'power' | 'storage' | 'service'

export interface Sheet {
  path: string
  name: string
  key: string
  view: RouteComponent | (() => Promise<RouteComponent>)
  tabs: Tab[]
  /** What may stand at the right: the card of what is picked, that of a port, of the network, of power, of storage, of services. */
  side: ('card' | 'port' | 'network' | 'power' | 'storage' | 'service')[]
  levels: Level[]
  /** It begins another group in the bar. */
  apart?: boolean
  /** It needs the room of the staff. */
  wide?: boolean
}

const viewOf = (sheet: string) => (name: string) =>
  defineAsyncComponent(modules[`../sheets/${sheet}/${name}.vue`] as () => Promise<Component>)
const modules = import.meta.glob('../sheets/{cabling,networks,power,services,storage}/*View.vue')
const cabling = viewOf('cabling')
const networks = viewOf('networks')
const power = viewOf('power')
const services = viewOf('services')
const storage = viewOf('storage')

export const sheets: Sheet[] = [
  {
    path: '/rack',
    name: 'Rack',
    key: '1',
    view: RackSheet,
    tabs: [
      { path: '', text: 'Front and rear', phone: 'Staff' },
      { path: 'front', text: 'Front' },
      { path: 'rear', text: 'Rear' },
      { path: 'side', text: 'Side' },
      { path: 'all', text: 'All racks' },
    ],
    side: ['card', 'port'],
    levels: ['space', 'weight', 'ports', 'racks'],
  },
  {
    path: '/gear',
    name: 'Gear',
    key: '2',
    view: () => import('../sheets/gear/GearSheet.vue'),
    tabs: [
      { path: '', text: 'Devices' },
      { path: 'parts', text: 'Parts and spares' },
      { path: 'money', text: 'Money and age' },
      { path: 'sheets', text: 'Spec sheets' },
    ],
    side: [],
    levels: ['space', 'weight', 'bays'],
  },
  {
    path: '/cabling',
    name: 'Cabling',
    key: '3',
    view: () => import('../sheets/cabling/CablingSheet.vue'),
    tabs: [
      { path: '', text: 'Trails', is: cabling('TrailsView') },
      { path: 'faces', text: 'All faces', is: cabling('FacesView') },
      { path: 'leads', text: 'Leads', is: cabling('LeadsView') },
      { path: 'runs', text: 'Runs', is: cabling('RunsView') },
      { path: 'ports', text: 'Ports left', is: cabling('PortsView') },
      { path: 'buy', text: 'To buy', is: cabling('BuyView') },
      { path: 'ways', text: 'Ways in', is: cabling('WaysView') },
      { path: 'labels', text: 'Labels', is: cabling('LabelsView') },
    ],
    side: ['port'],
    levels: ['space', 'ports', 'racks'],
  },
  {
    path: '/networks',
    name: 'Networks',
    key: '4',
    view: () => import('./TabbedSheet.vue'),
    tabs: [
      { path: '', text: 'Map', is: networks('MapView') },
      { path: 'grid', text: 'VLAN grid', is: networks('GridView') },
      { path: 'vlans', text: 'VLANs', is: networks('VlansView') },
      { path: 'wireless', text: 'Wireless', is: networks('WirelessView') },
      { path: 'addresses', text: 'Addresses', is: networks('AddressesView') },
      { path: 'reach', text: 'Reach', is: networks('ReachView') },
      { path: 'outside', text: 'Outside', is: networks('OutsideView') },
      { path: 'names', text: 'Names', is: networks('NamesView') },
      { path: 'ways', text: 'Ways', is: networks('WaysView') },
      { path: 'slow', text: 'Slow links', is: networks('SlowView') },
      { path: 'threads', text: 'Threads', is: networks('ThreadsView') },
    ],
    side: ['card', 'network'],
    levels: ['network'],
  },
  {
    path: '/services',
    name: 'Services',
    key: '5',
    view: () => import('./TabbedSheet.vue'),
    tabs: [
      { path: '', text: 'Towers', is: services('TowersView') },
      { path: 'room', text: 'Room', is: services('RoomView') },
      { path: 'there', text: 'Ways there', is: services('ThereView'), wide: true },
      { path: 'gone', text: 'If it goes', is: services('GoneView') },
      { path: 'needs', text: 'Needs', is: services('NeedsView'), wide: true },
      { path: 'all', text: 'Everything', is: services('AllView') },
    ],
    side: ['card', 'service'],
    levels: ['service'],
  },
  {
    path: '/storage',
    name: 'Storage',
    key: '6',
    view: () => import('./TabbedSheet.vue'),
    tabs: [
      { path: '', text: 'Pools', is: storage('PoolsView') },
      { path: 'data', text: "What's on them", is: storage('DataView') },
      { path: 'copies', text: 'Copies', is: storage('CopiesView') },
    ],
    side: ['card', 'storage'],
    levels: ['storage'],
  },
  {
    path: '/power',
    name: 'Power',
    key: '7',
    view: () => import('./TabbedSheet.vue'),
    tabs: [
      { path: '', text: 'Feeds', is: power('FeedsView') },
      { path: 'battery', text: 'On battery', is: power('BatteryView') },
      { path: 'lost', text: 'If lost', is: power('LostView') },
      { path: 'cost', text: 'What it costs', is: power('CostView') },
      { path: 'heat', text: 'Warmth and noise', is: power('HeatView') },
      { path: 'poe', text: 'PoE', is: power('PoeView') },
    ],
    side: ['card', 'power'],
    levels: ['power'],
  },
  {
    path: '/drafts',
    name: 'Drafts',
    key: '8',
    view: () => import('../sheets/drafts/DraftsSheet.vue'),
    tabs: [],
    side: [],
    levels: ['space', 'weight', 'ports', 'racks'],
    apart: true,
  },
  {
    path: '/findings',
    name: 'Findings',
    key: '9',
    view: () => import('../sheets/findings/FindingsSheet.vue'),
    tabs: [],
    side: ['card'],
    levels: ['space', 'weight', 'ports', 'racks'],
  },
  {
    path: '/logbook',
    name: 'Logbook',
    key: 'l',
    view: () => import('../sheets/logbook/LogbookSheet.vue'),
    tabs: [
      { path: '', text: 'Changes' },
      { path: 'compare', text: 'Two days' },
    ],
    side: [],
    levels: ['space', 'racks'],
  },
  {
    path: '/rundown',
    name: 'Rundown',
    key: '0',
    view: () => import('../sheets/rundown/RundownPage.vue'),
    tabs: [],
    side: [],
    levels: ['space', 'racks'],
    wide: true,
  },
]

/** Fetches the code of the sheets and tabs, one after another, so that no first look at one waits for it. */
export async function prefetch() {
  for (const { view } of sheets) if (typeof view === 'function') await (view as () => Promise<unknown>)()
  for (const load of Object.values(modules)) await load()
}

/** Where a tab of a sheet is. */
export const tabPath = (sheet: Sheet, tab: Tab) => (tab.path ? `${sheet.path}/${tab.path}` : sheet.path)

/** The sheet that the address names, and its tab. */
export function useSheet() {
  const route = useRoute()
  const sheet = computed(() => sheets.find((s) => route.path === s.path || route.path.startsWith(`${s.path}/`)))
  const tab = computed(() => sheet.value?.tabs.find((t) => t.path === (route.params['tab'] ?? '')))
  return { sheet, tab }
}
