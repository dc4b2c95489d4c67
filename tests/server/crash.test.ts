import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, inject, it } from 'vitest'
import { uuidv7 } from 'uuidv7'
import { base, Client } from './client'
import { asApplication } from './connect'
import { verified } from './verified'

const pid = (file: string) => Number(readFileSync(join(inject('data'), 'run', file), 'utf8'))

/** Tries again until the server is back: waits for an answer, not for a time. */
async function persist<T>(act: () => Promise<T>, good: (value: T) => boolean): Promise<T> {
  const deadline = Date.now() + 60_000
  for (;;) {
    const value = await act().catch(() => null)
    if (value !== null && good(value)) return value
    if (Date.now() > deadline) throw new Error('The server did not come back by itself.')
    await new Promise((done) => setTimeout(done, 100))
  }
}

it(
  'kill -9 of server and database between entries loses nothing acknowledged, and nobody has to help',
  { timeout: 180_000 },
  async () => {
    const tam = await new Client(inject('address')).signIn('tam')
    const db = asApplication(inject('data'))
    const joint = (await db('joints').where({ number: 'RM-238' }).first('id')).id
    await db.destroy()
    const acknowledged: string[] = []
    const record = async () => {
      const id = uuidv7()
      const entry = {
        id,
        kind: 'remark',
        step: 'washed',
        payload: { text: 'through the storm' },
        recordedAt: new Date().toISOString(),
      }
      // The tablet sends the same entry again until it is acknowledged.
      await persist(
        () => tam.post(`${base}/joints/${joint}/entries`, { entries: [entry] }),
        (r) => r.status === 200,
      )
      acknowledged.push(id)
    }
    for (const victim of ['server.pid', 'mariadb.pid', 'server.pid', 'mariadb.pid']) {
      await record()
      const going = [record(), record()]
      process.kill(pid(victim), 'SIGKILL')
      await Promise.all(going)
      await record()
    }
    const after = asApplication(inject('data'))
    const kept: string[] = await after('entries')
      .where({ subject: joint })
      .whereIn('id', acknowledged)
      .pluck('id')
    expect(kept.sort()).toEqual([...acknowledged].sort())
    const report = await verified(after)
    // What no longer follows from its entries is told in words: a state, not a count, is what to look into.
    const untrue = [
      ...report.faults.map((f) => `${f.subjectType} ${f.subject}: ${f.fault}`),
      ...report.stale.map(
        ({ subjectType, subject, field, stored, rebuilt }) =>
          `${subjectType} ${subject} ${field}: ${JSON.stringify(stored)}, not ${JSON.stringify(rebuilt)}`,
      ),
    ]
    expect(untrue, untrue.join('\n')).toEqual([])
    await after.destroy()
  },
)
