// Ports of several devices as one reads them: core 14-18, s1; hall 7.
export function portsWords(ports: { device: string; port: string }[]): string {
  const by = new Map<string, string[]>()
  for (const p of ports) by.set(p.device, [...(by.get(p.device) ?? []), p.port])
  return [...by].map(([device, list]) => `${device} ${inRanges(list)}`).join('; ')
}

/** Those that follow on one another as a range. */
export function inRanges(ports: string[]): string {
  const said: string[] = []
  for (let from = 0; from < ports.length;) {
    let to = from
    const [prefix, n] = split(ports[from] ?? '')
    while (to + 1 < ports.length && n >= 0) {
      const [p, k] = split(ports[to + 1] ?? '')
      if (p !== prefix || k !== n + to + 1 - from) break
      to++
    }
    said.push(to > from + 1 ? `${ports[from]}-${ports[to]}` : ports.slice(from, to + 1).join(', '))
    from = to + 1
  }
  return said.join(', ')
}

function split(port: string): [string, number] {
  const m = /^(.*?)(\d+)$/.exec(port)
  return m ? [m[1] ?? '', Number(m[2])] : [port, -1]
}
