import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { uuidv7 } from 'uuidv7'
import { startSite } from '../tests/site'
import { base, Client } from '../tests/server/client'
import { asOwner } from '../tests/server/connect'

/**
 * Entries accepted a second end to end – HTTP, role, schema, judge, chain, durable commit –
 * as a ratio to raw durable single-row inserts through the same driver, in one run with as many at once.
 */
const AT_ONCE = 8
const SECONDS = 6
const site = startSite(4500)
try {
  const db = asOwner(site.data)
  await db.raw('CREATE TABLE bench_rows (id UUID PRIMARY KEY, payload LONGTEXT NOT NULL, at DATETIME(3) NOT NULL)')
  const during = async (act: () => Promise<number>) => {
    const end = Date.now() + SECONDS * 1000
    const start = Date.now()
    const done = await Promise.all(Array.from({ length: AT_ONCE }, async () => {
      let n = 0
      while (Date.now() < end) n += await act()
      return n
    }))
    return (done.reduce((a, b) => a + b, 0) / (Date.now() - start)) * 1000
  }
  const ines = await new Client(site.address).signIn('ines')
  const joints: string[] = await db('joints').where('number', 'like', 'RM-%').whereIn('state', ['waiting', 'in-work']).orderBy('number').pluck('id')
  const remark = () => ({ id: uuidv7(), kind: 'remark', step: 'washed', payload: { text: 'bench' }, recordedAt: new Date().toISOString() })
  // A crew goes from joint to joint: a record has some dozens of entries, not thousands.
  let turn = 0
  const post = (size: number) => async () => {
    const reply = await ines.post(`${base}/joints/${joints[turn++ % joints.length]}/entries`, { entries: Array.from({ length: size }, remark) })
    if (reply.status !== 200) throw new Error(JSON.stringify(reply.problem))
    return size
  }
  const insert = async () => {
    await db('bench_rows').insert({ id: uuidv7(), payload: JSON.stringify({ text: 'bench' }), at: new Date() })
    return 1
  }
  const nothing = async () => {
    await (await fetch(`${site.address}/api/health`)).text()
    return 1
  }
  await post(1)()
  await nothing()
  const raw = await during(insert)
  const floor = await during(nothing)
  const single = await during(post(1))
  // What is recorded while a request is on its way goes out together after it.
  const queued = await during(post(20))
  const most = await during(post(50))
  await db.destroy()
  const show = (n: number) => n.toFixed(0).padStart(7)
  console.log(`over ${joints.length} open joints`)
  console.log(`raw durable inserts          ${show(raw)} /s (owner pool of 2)`)
  console.log(`requests that do nothing     ${show(floor)} /s: no request can be faster`)
  console.log(`entries, one a request       ${show(single)} /s, ratio ${(single / raw).toFixed(2)}`)
  console.log(`entries, twenty a request    ${show(queued)} /s, ratio ${(queued / raw).toFixed(2)}`)
  console.log(`entries, fifty a request     ${show(most)} /s, ratio ${(most / raw).toFixed(2)} (as many as the device bundles)`)
} catch (error) {
  console.error(error, readFileSync(join(site.data, 'logs/server.log'), 'utf8').slice(-1500))
  process.exitCode = 1
} finally {
  site.stop()
}
