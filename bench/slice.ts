import { gzipSync } from 'node:zlib'
import { uuidv7 } from 'uuidv7'
import { demoPassword } from '../demo/people'
import { findProject } from '../server/db/projects'
import { appendEntries, type Actor } from '../server/services/record'
import type { SlicePage } from '../server/services/slice'
import { asOwner } from '../tests/server/connect'
import { startSite } from '../tests/site'

/**
 * What a device takes along the first time: 2,000 joints at work, ten entries each. Time and bytes as they
 * travel, against the same rows as one plain JSON, packed.
 */
const JOINTS = 2000
const ENTRIES = 10
const site = startSite(4520)
const db = asOwner(site.data)
try {
  const project = (await findProject(db, 'skerry-head'))!
  const model = await db('joints').where({ number: 'RM-238' }).first()
  const person = (await db('people').where({ sign_in: 'ines' }).first('id', 'name'))!
  const actor: Actor = {
    person: person.id,
    name: person.name,
    project: project.id,
    roles: ['inspector'],
    crew: null,
  }
  const rows = Array.from({ length: JOINTS }, (_v, i) => ({
    ...model,
    id: uuidv7(),
    number: `SL-${String(i + 1).padStart(4, '0')}`,
    station: i,
    upstream: null,
    downstream: null,
    fitting: null,
    opened_at: new Date(),
    state: 'in-work',
  }))
  for (let i = 0; i < rows.length; i += 500) await db('joints').insert(rows.slice(i, i + 500))
  for (let i = 0; i < rows.length; i += 50)
    await db.transaction(async (trx) => {
      for (const { id } of rows.slice(i, i + 50))
        await appendEntries(
          trx,
          actor,
          'inspector',
          'joint',
          id,
          Array.from({ length: ENTRIES }, (_v, n) => ({
            id: uuidv7(),
            kind: 'reading',
            step: `step-${n}`,
            payload: { values: [0.31 + n / 1e4], typed: [`${310 + n / 10} mm`] },
            recordedAt: new Date(),
          })),
        )
    })
  const signIn = await fetch(`${site.address}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ signIn: 'ines', password: demoPassword }),
  })
  const cookie = signIn.headers.getSetCookie()[0]!.split(';')[0]!
  const { request } = await import('node:http')
  const { gunzipSync } = await import('node:zlib')
  const get = (path: string) =>
    new Promise<Buffer>((done, fail) => {
      const chunks: Buffer[] = []
      const headers = { cookie, 'accept-encoding': 'gzip' }
      request(`${site.address}/api/projects/skerry-head/${path}`, { headers }, (reply) => {
        reply.on('data', (c: Buffer) => chunks.push(c))
        reply.on('end', () => done(Buffer.concat(chunks)))
      })
        .on('error', fail)
        .end()
    })
  const pages: SlicePage[] = []
  let bytes = 0
  const start = performance.now()
  for (let from: number | null = 0; from !== null;) {
    const packed = await get(`slice?after=0&from=${from}&addresses=true`)
    bytes += packed.length
    const page = JSON.parse((packed[0] === 0x1f ? gunzipSync(packed) : packed).toString()) as SlicePage
    pages.push(page)
    from = page.next
  }
  const seconds = (performance.now() - start) / 1000
  const all = pages.flatMap((p) => p.rows)
  const shared = Object.assign({}, ...pages.map((p) => p.shared)) as object
  const plain = gzipSync(JSON.stringify({ rows: all, shared }), { level: 5 }).length
  console.log(`worksheets taken along    ${all.length} in ${pages.length} pages`)
  console.log(`time                      ${seconds.toFixed(1)} s (asked: under 10)`)
  console.log(`bytes as they travel      ${(bytes / 1e6).toFixed(2)} MB (asked: under 5)`)
  console.log(
    `the same as one JSON      ${(plain / 1e6).toFixed(2)} MB: ${(bytes / plain).toFixed(2)} × (asked: at most 2)`,
  )
  const quiet = performance.now()
  const none = await get(`slice?after=${pages[0]!.sequence}&from=0`)
  console.log(
    `asked again, no change    ${none.length} bytes in ${(performance.now() - quiet).toFixed(0)} ms`,
  )
} finally {
  await db.destroy()
  site.stop()
}
