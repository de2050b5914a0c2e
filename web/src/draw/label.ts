// Where the name of a thing stands on its face, and how much of it fits.
import type { Device } from '../api/client'
import { title } from '../lab/words'
import { bodyBox } from './faceParts'
import { fitText, type Box } from './scale'

export interface Label {
  x: number
  y: number
  anchor: 'start' | 'middle'
  text: string
}

/** The label of a device in a box; nothing for a brush, whose face has no room, and for a shelf, which is an edge. */
export function labelOf(device: Device, box: Box, scale: number, as: { small?: boolean; back?: boolean }): Label | undefined {
  if (device.device_kind === 'shelf' || (device.device_kind === 'brush_panel' && !device.name)) return undefined
  const own = bodyBox(device, box, scale, as.small)
  const room = as.back ? own.w - 24 : as.small ? own.w - 6 : own.w > 90 ? own.w * 0.46 : own.w - 20
  return {
    x: as.small ? own.x + own.w / 2 : own.x + 12,
    y: own.y + own.h / 2,
    anchor: as.small ? 'middle' : 'start',
    text: fitText(title(device), room),
  }
}
