import { spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

const root = join(import.meta.dirname, '..')
const launch = (data: string, ...args: string[]) =>
  spawnSync(join(root, 'vet-line'), args, { encoding: 'utf8', env: { ...process.env, VET_LINE_DATA: data } })

export interface TestSite {
  data: string
  address: string
  stop(): void
}

/** A whole Vet Line of its own – database, server, demo project – in a temporary folder. */
export const startSite = (port: number): TestSite => site('demo', port).started

/** The same without the demo, as a new user starts it, and the link that it prints. */
export function startEmptySite(port: number): TestSite & { link: string } {
  const { started, printed } = site('start', port)
  const link = /http:\/\/127\.0\.0\.1:\d+\/start#[\w-]+/.exec(printed)?.[0]
  if (!link) throw new Error(`No link was printed: ${printed}`)
  return { ...started, link }
}

function site(command: 'demo' | 'start', port: number): { started: TestSite; printed: string } {
  const data = mkdtempSync(join(tmpdir(), 'vet-line-site-'))
  const run = launch(data, command, '--port', String(port))
  const address = /http:\/\/127\.0\.0\.1:\d+/.exec(run.stdout)?.[0]
  if (run.status !== 0 || !address) throw new Error(`The test site did not start: ${run.stderr}`)
  const started = {
    data,
    address,
    stop() {
      launch(data, 'stop')
      rmSync(data, { recursive: true, force: true })
    },
  }
  return { started, printed: run.stdout }
}
