// The few sorts of word that the rundown's editor tells apart.
import { tags as t } from '@lezer/highlight'

export const tags = { comment: t.comment, string: t.string, keyword: t.keyword, number: t.number, unit: t.unit }
