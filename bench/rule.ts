import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { uuidv7 } from 'uuidv7'
import { demoPin } from '../demo/people'
import { Client, base } from '../tests/server/client'
import { asOwner } from '../tests/server/connect'
import { startSite } from '../tests/site'

/**
 * The project's rule is changed over 20,000 joints that have been worked at: a job judges them anew while
 * others go on; in the middle of it the server is killed (-9).
 */
const JOINTS = 20_000
const WORKED = 400
const site = startSite(4500)
const db = asOwner(site.data)
try {
  const model = await db('joints').where({ number: 'RM-001' }).first()
  const rows = Array.from({ length: JOINTS }, (_v, i) => ({
    ...model,
    id: uuidv7(),
    number: `BR-${i}`,
    station: 100_000 + i,
    upstream: null,
    downstream: null,
    fitting: null,
  }))
  for (let i = 0; i < rows.length; i += 500) await db('joints').insert(rows.slice(i, i + 500))
  const [ines, petra] = [
    await new Client(site.address).signIn('ines'),
    await new Client(site.address).signIn('petra'),
  ]
  const yes = (step: string) => ({
    id: uuidv7(),
    kind: 'confirmation',
    step,
    payload: { answer: 'yes' },
    recordedAt: new Date().toISOString(),
  })
  for (const { id } of rows.slice(0, WORKED))
    await ines.post(`${base}/joints/${id}/entries`, { entries: ['tools', 'ppe', 'washed'].map(yes) })

  const begun = performance.now()
  const asked = await petra.post(`${base}/settings/rule`, {
    rule: 'simple',
    reason: 'bench',
    secret: demoPin,
  })
  const answered = performance.now() - begun
  const waits: number[] = []
  let [killed, back] = [0, 0]
  const state = async () => (await db('jobs').orderBy('asked_at', 'desc').first('state', 'done', 'total'))!
  for (let job = await state(); job.state !== 'done'; job = await state()) {
    if (!killed && job.done > job.total / 3) {
      killed = job.done
      process.kill(Number(readFileSync(join(site.data, 'run/server.pid'), 'utf8')), 'SIGKILL')
      const at = performance.now()
      while (!(await fetch(`${site.address}/api/health`).catch(() => null))?.ok)
        await new Promise((done) => setTimeout(done, 100))
      back = performance.now() - at
    }
    const start = performance.now()
    await ines.get(`${base}/today`)
    waits.push(performance.now() - start)
  }
  const sorted = waits.sort((a, b) => a - b)
  const at = (share: number) =>
    Math.round(sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))]!)
  console.log(`the request itself answered in ${Math.round(answered)} ms (status ${asked.status})`)
  console.log(`${JOINTS} joints judged anew in ${((performance.now() - begun) / 1000).toFixed(1)} s`)
  console.log(`killed after ${killed}, answering again in ${Math.round(back)} ms, gone on to the end`)
  console.log(
    `another person's Today meanwhile, ${waits.length} times: median ${at(0.5)} ms, p95 ${at(0.95)} ms, worst ${at(1)} ms`,
  )
} finally {
  await db.destroy()
  site.stop()
}
