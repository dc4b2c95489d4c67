import { execFile, spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'

const root = join(import.meta.dirname, '..')
const command = join(root, 'vet-line')
const environment = (data: string) => ({ ...process.env, VET_LINE_DATA: data })
const launch = (data: string, ...args: string[]) =>
  spawnSync(command, args, { encoding: 'utf8', env: environment(data) })
const newData = () => mkdtempSync(join(tmpdir(), 'vet-line-site-'))

export interface TestSite {
  data: string
  address: string
  stop(): void
}

/** A whole Vet Line of its own – database, server, demo project – in a temporary folder. */
export const startSite = (port: number): TestSite => site('demo', port).started

/** The same, while whoever asks goes on. */
export async function startSiteBeside(port: number): Promise<TestSite> {
  const data = newData()
  const args = ['demo', '--port', String(port)]
  const { stdout } = await promisify(execFile)(command, args, { env: environment(data) })
  return siteAt(data, addressIn(stdout))
}

/** The same without the demo, as a new user starts it, and the link that it prints. */
export function startEmptySite(port: number): TestSite & { link: string } {
  const { started, printed } = site('start', port)
  const link = /http:\/\/127\.0\.0\.1:\d+\/start#[\w-]+/.exec(printed)?.[0]
  if (!link) throw new Error(`No link was printed: ${printed}`)
  return { ...started, link }
}

function site(what: 'demo' | 'start', port: number): { started: TestSite; printed: string } {
  const data = newData()
  const run = launch(data, what, '--port', String(port))
  if (run.status !== 0) throw new Error(`The test site did not start: ${run.stderr}`)
  return { started: siteAt(data, addressIn(run.stdout)), printed: run.stdout }
}

function addressIn(printed: string): string {
  const address = /http:\/\/127\.0\.0\.1:\d+/.exec(printed)?.[0]
  if (!address) throw new Error(`No address was printed: ${printed}`)
  return address
}

const siteAt = (data: string, address: string): TestSite => ({
  data,
  address,
  stop() {
    launch(data, 'stop')
    rmSync(data, { recursive: true, force: true })
  },
})
