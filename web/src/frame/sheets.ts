// The sheets there are, in the order of their keys. The logbook and the text of
// the whole lab come last.
export const sheets = [
  { name: 'Rack', path: '/rack', key: '1' },
  { name: 'Gear', path: '/gear', key: '2' },
  { name: 'Cabling', path: '/cabling', key: '3' },
  { name: 'Drafts', path: '/drafts', key: '8' },
  { name: 'Findings', path: '/findings', key: '9' },
  { name: 'Logbook', path: '/logbook', key: 'l' },
  { name: 'Rundown', path: '/rundown', key: '0' },
]
