// The real binary on a data directory of its own, started, stopped and killed
// as a person or a power cut would.
import { spawn, type ChildProcess } from 'node:child_process'
import { once } from 'node:events'
import { cpSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createInterface } from 'node:readline'

export const levelstaff = join(import.meta.dirname, '..', 'bin', 'levelstaff')

/** A data directory with Quarry House in it, made anew by each run: see house.ts. */
export const houseDir = join(import.meta.dirname, 'results-house')

export class Binary {
  readonly data = mkdtempSync(join(tmpdir(), 'levelstaff-e2e-'))
  url = ''
  private process?: ChildProcess

  /** Quarry House, on a copy of what was made once for all tests. */
  static house(): Binary {
    const lab = new Binary()
    cpSync(houseDir, lab.data, { recursive: true })
    return lab
  }

  /** Starts serving; demo serves Quarry House instead of the data directory. */
  async start(demo = false, host = '127.0.0.1'): Promise<void> {
    const port = new URL(this.url || 'http://127.0.0.1:0').port || '0'
    const args = demo ? ['demo'] : ['serve', '--data', this.data, '--keep-backups', '0']
    this.process = spawn(levelstaff, [...args, '--listen', `${host}:${port}`], { stdio: ['ignore', 'ignore', 'pipe'] })
    const said: string[] = []
    const lines = createInterface({ input: this.process.stderr! })
    for await (const line of lines) {
      said.push(line)
      const url = /url=(\S+)/.exec(line)?.[1]
      if (url) {
        this.url = url.replace(/\/$/, '')
        this.process.stderr!.resume()
        return
      }
    }
    throw new Error(`levelstaff did not start: ${said.join('\n')}`)
  }

  /** Ends it with the signal and waits until it is gone. */
  async stop(signal: NodeJS.Signals = 'SIGTERM'): Promise<void> {
    const running = this.process
    if (!running || running.exitCode !== null || running.signalCode !== null) return
    const gone = once(running, 'exit')
    running.kill(signal)
    await gone
  }

  async remove(): Promise<void> {
    await this.stop()
    rmSync(this.data, { recursive: true, force: true })
  }

  async get<T>(path: string): Promise<T> {
    return (await (await fetch(this.url + path)).json()) as T
  }

  async post(path: string, body: unknown): Promise<Response> {
    return fetch(this.url + path, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) })
  }
}
