// The map as it was last laid out, for when one comes back to it.
import type { Layout } from '../../draw/network/layout'

export const kept: { layout?: Layout; shape: string; places: Map<string, number> } = { shape: '', places: new Map() }
