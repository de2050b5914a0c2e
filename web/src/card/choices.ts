// The kinds and states to choose from, in the order of the trade's list.
import { deviceKinds, partKinds, states } from '../api/core.gen'

export const kinds = deviceKinds.map((k) => k.kind)
export { partKinds, states }
