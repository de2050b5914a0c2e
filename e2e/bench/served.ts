// A lab made of a text and served, and how long a sheet takes to be drawn.
import type { Page } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { Binary, levelstaff } from '../binary'

export async function served(text: string): Promise<Binary> {
  const lab = new Binary()
  const file = join(lab.data, 'lab.rundown')
  writeFileSync(file, text)
  execFileSync(levelstaff, ['load', file, '--data', lab.data, '--yes'], { stdio: 'ignore' })
  await lab.start()
  return lab
}

/** From the click on a sheet's tab until so many things are drawn, and the longest task meanwhile. */
export const opened = (page: Page, sheet: string, what: string, many: number) =>
  page.evaluate(
    ({ sheet, what, many }) =>
      new Promise<{ after: number; task: number }>((done) => {
        let task = 0
        const busy = new PerformanceObserver((list) => {
          for (const e of list.getEntries()) task = Math.max(task, e.duration)
        })
        busy.observe({ type: 'longtask' })
        const from = performance.now()
        document.querySelector<HTMLAnchorElement>(`a[href^="${sheet}"]`)!.click()
        const look = () => {
          if (document.querySelectorAll(what).length < many) return requestAnimationFrame(look)
          const after = performance.now() - from
          setTimeout(() => {
            busy.disconnect()
            done({ after, task })
          }, 300)
        }
        requestAnimationFrame(look)
      }),
    { sheet, what, many },
  )
