// Draws the photos of the demo lab: scenes made of rectangles, with the light,
// the slant and the grain of a picture taken by hand. npm run demo-photos
// writes them anew to demo/photos.
import { writeFile } from 'node:fs/promises'
import { chromium } from '@playwright/test'

const [W, H] = [1200, 900]
const rect = (x, y, w, h, fill, more = '') => `<rect x="${x}" y="${y}" width="${w}" height="${h}" fill="${fill}" ${more}/>`
const text = (x, y, size, words, fill = '#222', more = '') => `<text x="${x}" y="${y}" font-size="${size}" fill="${fill}" ${more}>${words}</text>`
const times = (n, f) => Array.from({ length: n }, (_, i) => f(i)).join('')
/** A number from 0 to 1 that is the same for the same i. */
const chance = (i) => Math.abs(Math.sin(i * 127.1 + 3.7) * 43758.5453) % 1

/** Bars as on a label; they say nothing. */
const bars = (x, y, w, h) => times(Math.floor(w / 6), (i) => rect(x + i * 6, y, 1 + Math.floor(chance(i + x) * 5), h, '#111'))
const screw = (x, y) => `<circle cx="${x}" cy="${y}" r="9" fill="#9a9d98"/><path d="M${x - 6} ${y - 3}l12 6M${x + 3} ${y - 6}l-6 12" stroke="#55585a" stroke-width="2.5"/>`

/** The inside of a server with its lid off, front at the left. */
function lidOff() {
  const drives = times(4, (row) => times(2, (col) => rect(60 + col * 12, 90 + row * 180, 236, 166, '#70757a', 'rx="4"') + rect(60, 90 + row * 180, 26, 166, '#2b2f33')))
  const fans = times(5, (i) => `${rect(330, 78 + i * 148, 92, 136, '#22262a', 'rx="8"')}<circle cx="376" cy="${146 + i * 148}" r="42" fill="#3a4046"/><circle cx="376" cy="${146 + i * 148}" r="15" fill="#1a1d20"/>${times(7, (k) => `<path d="M376 ${146 + i * 148}l${40 * Math.cos(k * 0.9)} ${40 * Math.sin(k * 0.9)}" stroke="#15181a" stroke-width="9"/>`)}`)
  const heatsink = (x, y) => rect(x, y, 180, 170, '#b9bdbb', 'rx="3"') + times(16, (i) => rect(x + 6 + i * 11, y, 5, 170, '#868b8b'))
  const memory = (x, y) => times(8, (i) => rect(x + i * 15, y, 10, 200, i % 4 === 3 ? '#14171a' : '#1f6b4a', 'rx="1"') + (i % 4 === 3 ? '' : times(6, (k) => rect(x + i * 15 + 2, y + 14 + k * 31, 6, 20, '#15191c'))))
  return rect(0, 0, W, H, '#4c3f33') + times(30, (i) => rect(0, i * 31, W, 1.5, '#42372c')) + rect(30, 50, 1140, 800, '#a5a9a6', 'rx="6"') + rect(46, 66, 1108, 768, '#7d8380') +
    rect(440, 76, 700, 748, '#1d4a3a') + drives + fans + heatsink(500, 150) + heatsink(500, 560) + memory(700, 120) + memory(700, 560) +
    rect(860, 90, 270, 150, '#c8ccc9', 'rx="3"') + rect(860, 260, 270, 150, '#c8ccc9', 'rx="3"') + text(900, 172, 30, '750 W') + text(900, 342, 30, '750 W') +
    rect(880, 470, 240, 26, '#103026') + rect(900, 452, 200, 62, '#2a7a56', 'rx="3"') + rect(880, 560, 240, 26, '#103026') + rect(890, 545, 150, 56, '#27496e', 'rx="3"') +
    times(9, (i) => `<circle cx="${470 + ((i * 97) % 640)}" cy="${430 + (i % 3) * 40}" r="11" fill="#2c3237"/><circle cx="${470 + ((i * 97) % 640)}" cy="${430 + (i % 3) * 40}" r="7" fill="#8c9296"/>`) + screw(60, 64) + screw(1140, 64) + screw(60, 836) + screw(1140, 836)
}

/** The label at the back of it. */
function label() {
  return rect(0, 0, W, H, '#8e938f') + times(70, (i) => rect(0, i * 13, W, 1, '#868b87')) + times(11, (i) => times(5, (k) => `<circle cx="${60 + i * 34}" cy="${90 + k * 34}" r="11" fill="#272b2c"/>`)) +
    screw(1130, 90) + screw(1130, 810) + screw(70, 810) +
    `<g transform="rotate(-2.5 600 500)">${rect(190, 330, 860, 400, '#f2f1ea', 'rx="10"')}${text(230, 410, 54, 'Fell', '#111', 'font-weight="700"')}${text(360, 410, 36, 'Model R28')}${text(230, 470, 27, '100–240 V ~ 50/60 Hz   8.5 A / 4.2 A')}${bars(230, 500, 560, 74)}${text(230, 612, 30, 'S/N  FL-28-7731', '#111', 'font-family="monospace"')}${text(230, 670, 24, 'Made for the made-up. Do not open while it dreams.', '#555')}${rect(850, 500, 150, 150, '#fff')}${times(225, (i) => (chance(i) > 0.5 ? rect(850 + (i % 15) * 10, 500 + Math.floor(i / 15) * 10, 10, 10, '#111') : ''))}</g>`
}

/** The front of the storage box; somebody has marked the drive that clicks. */
function bays() {
  const bay = (i) => {
    const [x, y] = [70 + (i % 4) * 268, 250 + Math.floor(i / 4) * 160]
    const empty = i > 8
    return rect(x, y, 256, 148, '#1c1f22', 'rx="4"') + rect(x + 8, y + 8, 240, 132, empty ? '#0e1011' : '#33383c', 'rx="3"') + (empty ? times(9, (k) => rect(x + 24 + k * 24, y + 28, 10, 92, '#17191b', 'rx="5"')) : rect(x + 190, y + 30, 46, 88, '#50565b', 'rx="4"') + times(6, (k) => rect(x + 26 + k * 25, y + 50, 12, 52, '#24282b', 'rx="5"')) + `<circle cx="${x + 26}" cy="${y + 26}" r="6" fill="${i === 8 ? '#d9822b' : '#63c08a'}"/>`)
  }
  return rect(0, 0, W, H, '#2e2a26') + rect(20, 200, 26, 560, '#0f1011') + rect(1154, 200, 26, 560, '#0f1011') + times(12, (i) => rect(26, 214 + i * 46, 14, 14, '#4b4e50') + rect(1160, 214 + i * 46, 14, 14, '#4b4e50')) + rect(52, 232, 1096, 506, '#3d4246', 'rx="4"') + times(12, bay) +
    rect(0, 752, W, 42, '#a77d4e') + times(9, (i) => rect(0, 756 + i * 4.4, W, 1, '#936b40')) +
    `<g transform="rotate(4 200 640)">${rect(92, 612, 190, 66, '#e9d98a')}${text(106, 657, 38, 'clicks!', '#3a3a6a', 'font-family="cursive" font-style="italic"')}</g>` + text(70, 160, 30, 'silo', '#8d8a80')
}

/** The batteries, with the year somebody wrote on them. */
function batteries() {
  const cell = (x) => rect(x, 300, 330, 380, '#2a2e33', 'rx="10"') + rect(x + 14, 314, 302, 60, '#3b4147', 'rx="4"') + rect(x + 30, 276, 54, 30, '#b3392f') + rect(x + 246, 276, 54, 30, '#15171a') + rect(x + 40, 420, 250, 150, '#dfe3df') + text(x + 60, 466, 30, '12 V   9 Ah') + text(x + 60, 506, 23, 'sealed lead-acid') + text(x + 60, 546, 23, 'recycle me', '#555')
  return rect(0, 0, W, H, '#57524b') + rect(70, 190, 1060, 560, '#1b1e21', 'rx="8"') + rect(100, 220, 1000, 500, '#0d0f10') + cell(170) + cell(560) + `<path d="M226 278C230 150 420 150 700 210S860 190 860 278" fill="none" stroke="#b3392f" stroke-width="20"/><path d="M444 278C450 190 560 190 616 278" fill="none" stroke="#191b1e" stroke-width="20"/>` +
    `<g transform="rotate(-5 420 640)">${text(230, 650, 62, 'May 2022', '#f3f0e2', 'font-family="cursive" font-style="italic"')}</g>` + rect(940, 240, 130, 460, '#3b3f43') + times(14, (i) => rect(955, 262 + i * 31, 100, 10, '#2a2d30'))
}

/** The dome at night, through the camera that looks for clouds. */
function sky() {
  const stars = times(420, (i) => {
    const a = chance(i) * 2 * Math.PI
    const r = Math.sqrt(chance(i + 500)) * 420
    return `<circle cx="${600 + r * Math.cos(a)}" cy="${450 + r * Math.sin(a)}" r="${0.7 + chance(i + 900) ** 5 * 3.4}" fill="${chance(i + 70) > 0.8 ? '#ffd9b0' : '#e8efff'}" opacity="${0.35 + chance(i + 30) * 0.65}"/>`
  })
  const trees = Array.from({ length: 91 }, (_, i) => {
    const a = (i / 90) * 2 * Math.PI
    const r = 418 - chance(i) * 46 - (i > 20 && i < 34 ? 60 : 0)
    return `${600 + r * Math.cos(a)},${450 + r * Math.sin(a)}`
  })
  return rect(0, 0, W, H, '#020304') + '<defs><radialGradient id="n"><stop offset="0" stop-color="#111d3d"/><stop offset=".75" stop-color="#1c2a4a"/><stop offset="1" stop-color="#56483e"/></radialGradient></defs>' + '<circle cx="600" cy="450" r="430" fill="url(#n)"/>' + '<ellipse cx="600" cy="450" rx="110" ry="400" transform="rotate(38 600 450)" fill="#cfd8f4" opacity=".10"/><ellipse cx="600" cy="450" rx="50" ry="380" transform="rotate(38 600 450)" fill="#e8ecff" opacity=".08"/>' + stars +
    '<path d="M430 330L690 260" stroke="#fff" stroke-width="3" opacity=".85"/>' + `<path fill-rule="evenodd" fill="#04060a" d="M170 450a430 430 0 1 0 860 0a430 430 0 1 0 -860 0ZM${trees.join('L')}Z"/>` + text(30, 870, 24, '23:41  30 s', '#8a8f98', 'font-family="monospace"')
}

const scenes = { 'anvil-lid-off': lidOff(), 'anvil-label': label(), 'silo-bays': bays(), 'keep-batteries': batteries(), 'all-sky-night': sky() }

const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] })
const page = await browser.newPage({ viewport: { width: W, height: H } })
for (const [name, drawn] of Object.entries(scenes)) {
  const dark = name === 'all-sky-night'
  const light = dark ? '' : '<defs><radialGradient id="l" cx=".38" cy=".3" r=".95"><stop offset="0" stop-color="#fff6e0" stop-opacity=".34"/><stop offset=".5" stop-color="#fff" stop-opacity="0"/><stop offset="1" stop-color="#000" stop-opacity=".62"/></radialGradient></defs><rect width="1200" height="900" fill="url(#l)"/>'
  const grain = '<filter id="g"><feTurbulence type="fractalNoise" baseFrequency=".8" numOctaves="2"/><feColorMatrix values="0 0 0 0 .5 0 0 0 0 .5 0 0 0 0 .5 .5 .5 0 0 -.38"/></filter><rect width="1200" height="900" filter="url(#g)" opacity=".3"/>'
  const slant = dark ? '' : 'transform="translate(-26 -34) rotate(1.2) scale(1.075)"'
  await page.setContent(`<style>body{margin:0}</style><svg width="${W}" height="${H}" font-family="sans-serif"><g ${slant}>${drawn}</g>${light}${grain}</svg>`)
  await writeFile(new URL(`../demo/photos/${name}.jpg`, import.meta.url), await page.screenshot({ type: 'jpeg', quality: 70 }))
}
await browser.close()
