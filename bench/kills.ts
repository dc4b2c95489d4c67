import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { uuidv7 } from 'uuidv7'
import { findProject } from '../server/db/projects'
import { verifyRecord } from '../server/services/verify'
import { base, Client } from '../tests/server/client'
import { asApplication } from '../tests/server/connect'
import { startSite } from '../tests/site'

/**
 * Server and database killed in turn (-9) while entries come in: what was acknowledged is
 * there, once, and the record is whole.
 *   tsx bench/kills.ts [how many kills, 200]
 */
const KILLS = Number(process.argv[2] ?? 200)
const WRITERS = 4
const site = startSite(4800)
const pid = (file: string) => Number(readFileSync(join(site.data, 'run', file), 'utf8'))
const pause = (ms: number) => new Promise((done) => setTimeout(done, ms))

try {
  const before = asApplication(site.data)
  const joints: string[] = await before('joints')
    .where('number', 'like', 'RM-%')
    .whereNotNull('procedure_id')
    .orderBy('number', 'desc')
    .limit(WRITERS)
    .pluck('id')
  await before.destroy()
  const ines = await new Client(site.address).signIn('ines')
  const acknowledged: string[] = []
  let [sent, stop] = [0, false]
  const write = async (joint: string) => {
    while (!stop) {
      const entries = Array.from({ length: 3 }, () => ({
        id: uuidv7(),
        kind: 'remark',
        step: 'washed',
        payload: { text: 'under fire' },
        recordedAt: new Date().toISOString(),
      }))
      sent += entries.length
      // The same entries again until they are acknowledged, as a device does.
      for (;;) {
        const reply = await ines.post(`${base}/joints/${joint}/entries`, { entries }).catch(() => null)
        if (reply?.status === 200) break
        await pause(50)
      }
      acknowledged.push(...entries.map((e) => e.id))
    }
  }
  const writers = joints.map(write)
  const started = Date.now()
  for (let kill = 0; kill < KILLS; kill++) {
    const mark = acknowledged.length
    const deadline = Date.now() + 60_000
    while (acknowledged.length < mark + 12) {
      if (Date.now() > deadline) throw new Error(`After kill ${kill} nothing was acknowledged for a minute.`)
      await pause(20)
    }
    process.kill(pid(kill % 2 ? 'mariadb.pid' : 'server.pid'), 'SIGKILL')
    if (kill % 20 === 19)
      console.log(
        `${kill + 1} kills, ${acknowledged.length} entries acknowledged, ${Math.round((Date.now() - started) / 1000)} s`,
      )
  }
  stop = true
  await Promise.all(writers)
  const db = asApplication(site.data)
  const kept: string[] = []
  for (let i = 0; i < acknowledged.length; i += 500)
    kept.push(
      ...(await db('entries')
        .whereIn('id', acknowledged.slice(i, i + 500))
        .pluck('id')),
    )
  const report = await verifyRecord(db, [(await findProject(db, 'skerry-head'))!])
  const doubled = kept.length - new Set(kept).size
  const lost = acknowledged.length - kept.length
  console.log(
    `${KILLS} kills: ${sent} sent, ${acknowledged.length} acknowledged, ${lost} lost, ` +
      `${doubled} doubled; verify: ${report.faults.length} faults, ${report.stale.length} ` +
      `stale`,
  )
  if (lost || doubled || report.faults.length || report.stale.length) process.exitCode = 1
  await db.destroy()
} catch (error) {
  console.error(error)
  process.exitCode = 1
} finally {
  site.stop()
}
