// A drawing as a file of its own: the SVG on the screen with its styles and
// letters written into it, and a PNG made from that.
const kept = [
  'fill',
  'fill-opacity',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'opacity',
  'font-family',
  'font-size',
  'font-weight',
  'text-anchor',
  'dominant-baseline',
  'paint-order',
]

async function dataUrl(url: string): Promise<string> {
  const blob = await (await fetch(url)).blob()
  return new Promise((resolve, reject) => {
    const reader = new FileReader()
    reader.onload = () => resolve(reader.result as string)
    reader.onerror = () => reject(reader.error ?? new Error('a font could not be read'))
    reader.readAsDataURL(blob)
  })
}

/** The faces of the letters that the page has loaded, as data. */
async function fontFaces(): Promise<string> {
  const rules = [...document.styleSheets].flatMap((sheet) =>
    [...sheet.cssRules].map((rule) => ({ rule, base: sheet.href ?? location.href })),
  )
  const faces = rules.flatMap(({ rule, base }) => {
    if (!(rule instanceof CSSFontFaceRule)) return []
    const family = rule.style.getPropertyValue('font-family').replaceAll(/["']/g, '')
    const weight = rule.style.getPropertyValue('font-weight') || '400'
    const source = /url\(["']?([^"')]+\.woff2)/.exec(rule.style.getPropertyValue('src'))?.[1]
    const wanted = /Condensed|Mono/.test(family) && !/latin-ext/.test(source ?? '')
    return source && wanted ? [{ family, weight, url: new URL(source, base).href }] : []
  })
  const texts = await Promise.all(
    faces.map(
      async (f) => `@font-face{font-family:"${f.family}";font-weight:${f.weight};src:url(${await dataUrl(f.url)}) format("woff2")}`,
    ),
  )
  return texts.join('')
}

/** The drawings with a title under them, as one SVG text. */
export async function svgText(drawings: SVGSVGElement[], title: string): Promise<string> {
  const gap = 24
  const margin = 20
  const sizes = drawings.map((d) => d.viewBox.baseVal)
  const width = Math.ceil(sizes.reduce((sum, s) => sum + s.width, 0) + gap * (drawings.length - 1) + 2 * margin)
  const tall = Math.max(0, ...sizes.map((s) => s.height))
  const height = Math.ceil(tall + 2 * margin + 26)
  const out = document.createElementNS('http://www.w3.org/2000/svg', 'svg')
  const set = (el: Element, attributes: Record<string, string | number>) =>
    Object.entries(attributes).forEach(([k, v]) => el.setAttribute(k, `${v}`))
  set(out, { xmlns: 'http://www.w3.org/2000/svg', width, height, viewBox: `0 0 ${width} ${height}` })
  const style = document.createElementNS('http://www.w3.org/2000/svg', 'style')
  style.textContent = await fontFaces()
  const paper = document.createElementNS('http://www.w3.org/2000/svg', 'rect')
  const ink = getComputedStyle(document.documentElement)
  set(paper, { width: '100%', height: '100%', fill: ink.getPropertyValue('--sheet') })
  out.append(style, paper)
  let x = margin
  for (const [i, drawing] of drawings.entries()) {
    const copy = drawing.cloneNode(true) as SVGSVGElement
    inline(drawing, copy)
    copy.querySelectorAll('.handles, .drag').forEach((el) => el.remove())
    const size = sizes[i]
    set(copy, { x, y: margin + tall - (size?.height ?? 0) })
    out.append(copy)
    x += (size?.width ?? 0) + gap
  }
  const caption = document.createElementNS('http://www.w3.org/2000/svg', 'text')
  set(caption, {
    x: margin,
    y: height - 14,
    'font-family': 'IBM Plex Sans Condensed, Arial Narrow, sans-serif',
    'font-weight': 600,
    'font-size': 14,
    fill: ink.getPropertyValue('--ink'),
  })
  caption.textContent = title
  out.append(caption)
  return new XMLSerializer().serializeToString(out)
}

/** Writes what the style sheets say into the copy itself. */
function inline(from: Element, to: Element) {
  const style = getComputedStyle(from)
  for (const name of kept) {
    const value = style.getPropertyValue(name)
    if (value) to.setAttribute(name, value)
  }
  to.removeAttribute('class')
  for (let i = 0; i < from.children.length; i++) {
    const [a, b] = [from.children[i], to.children[i]]
    if (a && b) inline(a, b)
  }
}

export function keep(name: string, blob: Blob) {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(blob)
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
}

/** The same as a picture, at twice the size on the screen. */
export async function png(svg: string): Promise<Blob> {
  const image = new Image()
  const url = URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }))
  await new Promise<void>((resolve, reject) => {
    image.onload = () => resolve()
    image.onerror = () => reject(new Error('the drawing could not be made into a picture'))
    image.src = url
  })
  const canvas = document.createElement('canvas')
  canvas.width = image.width * 2
  canvas.height = image.height * 2
  const paint = canvas.getContext('2d')
  paint?.scale(2, 2)
  paint?.drawImage(image, 0, 0)
  URL.revokeObjectURL(url)
  return new Promise((resolve, reject) =>
    canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error('the picture could not be made'))), 'image/png'),
  )
}
