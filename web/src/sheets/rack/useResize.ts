// Pulling the upper or lower edge of a mounted thing, so that it takes more
// units or fewer.
import { onScopeDispose, shallowRef } from 'vue'
import type { Device } from '../../api/client'
import { useLab } from '../../lab/useLab'
import { useActions } from '../../work/useActions'

export interface Resize {
  device: Device
  unit: number
  takes: number
}

/** unitPx is how high a unit is on the screen, heightU how many the rack has. */
export function useResize(unitPx: () => number, heightU: () => number) {
  const { put } = useLab()
  const { change } = useActions()
  const resizing = shallowRef<Resize>()
  let from: { y: number; edge: 'top' | 'foot'; device: Device } | undefined

  function pull(device: Device, edge: 'top' | 'foot', event: PointerEvent) {
    from = { y: event.clientY, edge, device }
    window.addEventListener('pointermove', move)
    window.addEventListener('pointerup', drop)
    window.addEventListener('keydown', escape)
  }

  function move(event: PointerEvent) {
    if (!from) return
    const { device, edge } = from
    const up = Math.round((from.y - event.clientY) / unitPx())
    const unit = device.at?.unit ?? 1
    const takes = device.takes_u ?? 1
    if (edge === 'top') resizing.value = { device, unit, takes: Math.max(1, Math.min(heightU() - unit + 1, takes + up)) }
    else {
      const foot = Math.max(1, Math.min(unit + takes - 1, unit + up))
      resizing.value = { device, unit: foot, takes: takes + unit - foot }
    }
  }

  async function drop() {
    const to = resizing.value
    end()
    if (!to?.device.at || (to.takes === to.device.takes_u && to.unit === to.device.at.unit)) return
    await change([put({ ...to.device, takes_u: to.takes, at: { ...to.device.at, unit: to.unit } })])
  }

  function escape(event: KeyboardEvent) {
    if (event.key === 'Escape') end()
  }

  function end() {
    from = undefined
    resizing.value = undefined
    window.removeEventListener('pointermove', move)
    window.removeEventListener('pointerup', drop)
    window.removeEventListener('keydown', escape)
  }

  onScopeDispose(end)
  return { resizing, pull }
}
