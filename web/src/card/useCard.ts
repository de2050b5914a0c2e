import { api } from '../api/address'
import type { Key, Schemas } from '../api/client'
import { lists } from '../api/core.gen'
import { useReport } from '../lab/useReport'

const listOf = (kind: Schemas['RecordKind']) => (kind === 'lab' ? kind : lists[kind])

/** The card of a record, kept up to date; none while its id is ''. */
export const useCard = (record: () => Key) =>
  useReport(() => (record().id ? api(`/api/v1/cards/${listOf(record().kind)}/{id}`, { id: record().id }) : ''))

/** The facts of one group of a card, '' for those that come first. */
export const groupOf = (card: Schemas['Card'] | undefined, title: string): Schemas['Known'][] =>
  card?.groups.find((g) => (g.title ?? '') === title)?.facts ?? []
