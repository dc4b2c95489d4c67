import { spawn, type ChildProcess } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { uuidv7 } from 'uuidv7'
import { Client, base } from '../tests/server/client'
import { asOwner } from '../tests/server/connect'
import { startSite } from '../tests/site'
import type { Load } from './load'

/**
 * The application against the same by hand, in one run, with the load from a second process: a
 * signed-in route that does nothing, entries one and fifty a request, and raw durable inserts.
 */
const SECONDS = 5
const AT_ONCE = 8
const PORT = 4590
const here = (name: string) => join(import.meta.dirname, name)
const node = (script: string, ...args: string[]) =>
  spawn(process.execPath, ['--import', 'tsx', here(script), ...args], {
    stdio: ['ignore', 'pipe', 'inherit'],
  })

const text = async (child: ChildProcess): Promise<string> => {
  let out = ''
  for await (const chunk of child.stdout!) out += String(chunk)
  return out
}
const measure = async (load: Omit<Load, 'seconds' | 'atOnce'>) =>
  (
    JSON.parse(
      await text(node('load.ts', JSON.stringify({ seconds: SECONDS, atOnce: AT_ONCE, ...load }))),
    ) as { perSecond: number }
  ).perSecond

const site = startSite(4500)
let bare: ChildProcess | null = null
try {
  const db = asOwner(site.data)
  await db.raw(
    'CREATE TABLE bench_rows (id UUID PRIMARY KEY, payload LONGTEXT NOT NULL, at DATETIME(3) NOT NULL)',
  )
  const ines = await new Client(site.address).signIn('ines')
  const headers = { cookie: (ines as unknown as { cookie: string }).cookie }
  const list = (await ines.get('calculators')).body
  bare = node('bare.ts', site.data, String(PORT), JSON.stringify(list))
  await new Promise<void>((done) => bare!.stdout!.once('data', () => done()))
  const subjects: string[] = await db('joints')
    .where('number', 'like', 'RM-%')
    .whereNotNull('procedure_id')
    .orderBy('number', 'desc')
    .limit(40)
    .pluck('id')
  const entries = (count: number) =>
    measure({ url: `${site.address}/api/${base}/joints/:subject/entries`, headers, subjects, entries: count })

  const bareList = await measure({ url: `http://127.0.0.1:${PORT}/list` })
  const ownList = await measure({ url: `${site.address}/api/calculators`, headers })
  const bareInsert = await measure({
    url: `http://127.0.0.1:${PORT}/insert`,
    body: JSON.stringify({ payload: { text: 'bench' } }),
  })
  const one = await entries(1)
  const end = Date.now() + SECONDS * 1000
  const inserts = await Promise.all(
    Array.from({ length: AT_ONCE }, async () => {
      let n = 0
      for (; Date.now() < end; n++)
        await db('bench_rows').insert({
          id: uuidv7(),
          payload: JSON.stringify({ text: 'bench' }),
          at: new Date(),
        })
      return n
    }),
  )
  const raw = inserts.reduce((a, b) => a + b, 0) / SECONDS
  const fifty = (await entries(50)) * 50
  await db.destroy()
  const show = (n: number) => n.toFixed(0).padStart(7)
  console.log(
    `a signed-in route that does nothing  ${show(ownList)} /s, by hand ${show(bareList)} ` +
      `/s: ratio ${(ownList / bareList).toFixed(2)} (wanted 0.5)`,
  )
  console.log(
    `one entry a request                  ${show(one)} /s, by hand ${show(bareInsert)} ` +
      `/s: ratio ${(one / bareInsert).toFixed(2)} (wanted 0.5)`,
  )
  console.log(
    `fifty entries a request              ${show(fifty)} /s, raw inserts ${show(raw)} /s: ratio ${(fifty / raw).toFixed(2)} (wanted 0.6)`,
  )
} catch (error) {
  console.error(error, readFileSync(join(site.data, 'logs/server.log'), 'utf8').slice(-1500))
  process.exitCode = 1
} finally {
  bare?.kill()
  site.stop()
}
