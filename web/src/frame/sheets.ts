// The sheets there are, in the order of their keys. The rundown is the whole
// lab as text; it has the last key of the row.
export const sheets = [
  { name: 'Rack', path: '/rack', key: '1' },
  { name: 'Rundown', path: '/rundown', key: '0' },
]
