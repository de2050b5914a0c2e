// The kinds and states to choose from, in the order of the trade's list. The
// compiler sees to it that none is missing.
import type { Schemas } from '../api/client'

type Every<T extends string> = Record<T, true>

const everyKind: Every<Schemas['DeviceKind']> = {
  server: true,
  mini_pc: true,
  single_board_computer: true,
  nas: true,
  disk_shelf: true,
  tape_library: true,
  switch: true,
  router: true,
  firewall: true,
  access_point: true,
  modem: true,
  patch_panel: true,
  wall_plate: true,
  coupler: true,
  brush_panel: true,
  blanking_panel: true,
  shelf: true,
  drawer: true,
  kvm_switch: true,
  console_server: true,
  ups: true,
  pdu: true,
  power_strip: true,
  fan_unit: true,
  sensor: true,
  recorder: true,
  hub: true,
  display: true,
  desktop: true,
  camera: true,
  other: true,
}
const everyState: Every<Schemas['State']> = { running: true, resting: true, waiting: true, spare: true, faulty: true, leaving: true }

export const kinds = Object.keys(everyKind) as Schemas['DeviceKind'][]
export const states = Object.keys(everyState) as Schemas['State'][]

const everyPart: Every<Schemas['PartKind']> = { drive: true, memory: true, processor: true, card: true, supply: true, fan: true, battery: true, transceiver: true }
export const partKinds = Object.keys(everyPart)
