// The kinds and states to choose from, in the order of the trade's list.
import { deviceKinds, partKinds, states } from '../api/core.gen'

export const kinds = deviceKinds.filter((k) => !('guest' in k)).map((k) => k.kind)
export { partKinds, states }
