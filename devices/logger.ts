import { setTimeout as sleep } from 'node:timers/promises'
import { makeLog } from '../demo/pressure-log'

/**
 * A simulated pressure logger: pushes a made-up trace to a running test, faster than time.
 *   tsx devices/logger.ts ADDRESS PROJECT PACK-ID SIGN-IN PASSWORD [tight|leaking] [samples a second]
 */
const [address, project, pack, name, password, story = 'tight', rate = '20'] = process.argv.slice(2)
if (!password) {
  console.error('Usage: logger ADDRESS PROJECT PACK-ID SIGN-IN PASSWORD [tight|leaking] [samples a second]')
  process.exit(2)
}
const signedIn = await fetch(`${address}/api/session`, {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({ signIn: name, password }),
})
if (!signedIn.ok) throw new Error(`The logger could not sign in: ${signedIn.status}`)
const cookie = signedIn.headers.getSetCookie()[0]!.split(';')[0]!
const rows = makeLog({
  testPressure: 1250,
  startedAt: Date.now() - 6 * 3_600_000,
  leak: story === 'leaking' ? 110 : 0,
  seed: Date.now(),
  step: 60,
})
const batch = Math.max(1, Number(rate))
for (let i = 0; i < rows.length; i += batch) {
  const samples = rows.slice(i, i + batch).map((r) => ({
    at: r.time,
    pressure: r['pressure kPa'] * 1000,
    temperature: r.temperature,
    makeup: r['makeup L'] / 1000,
  }))
  const reply = await fetch(`${address}/api/projects/${project}/packs/${pack}/samples`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', cookie },
    body: JSON.stringify({ samples }),
  })
  if (!reply.ok) throw new Error(`Samples were refused: ${await reply.text()}`)
  await sleep(1000)
}
