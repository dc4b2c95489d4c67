import { Agent, request } from 'node:http'
import { uuidv7 } from 'uuidv7'

/** Load from a process of its own: so many at once for so many seconds; prints requests a second. */
export interface Load {
  url: string
  seconds: number
  atOnce: number
  headers?: Record<string, string>
  /** subjects in turn, `:subject` in the address; entries a request */
  subjects?: string[]
  entries?: number
  body?: string
}
const load = JSON.parse(process.argv[2]!) as Load
const agent = new Agent({ keepAlive: true, maxSockets: load.atOnce })

let turn = 0
function next(): { url: string; body: string | undefined } {
  if (!load.subjects) return { url: load.url, body: load.body }
  const entry = () => ({
    id: uuidv7(),
    kind: 'remark',
    step: null,
    payload: { text: 'bench' },
    recordedAt: new Date().toISOString(),
  })
  const subject = load.subjects[turn++ % load.subjects.length]!
  return {
    url: load.url.replace(':subject', subject),
    body: JSON.stringify({ entries: Array.from({ length: load.entries ?? 1 }, entry) }),
  }
}
const once = () =>
  new Promise<void>((done, failed) => {
    const { url, body } = next()
    const headers = {
      ...load.headers,
      ...(body === undefined
        ? {}
        : { 'content-type': 'application/json', 'content-length': String(Buffer.byteLength(body)) }),
    }
    const sent = request(url, { method: body === undefined ? 'GET' : 'POST', agent, headers }, (reply) => {
      if (reply.statusCode !== 200) failed(new Error(`${url}: ${reply.statusCode}`))
      reply.resume().on('end', done)
    })
    sent.on('error', failed)
    sent.end(body)
  })

const run = async (seconds: number) => {
  const end = Date.now() + seconds * 1000
  const start = Date.now()
  const counts = await Promise.all(
    Array.from({ length: load.atOnce }, async () => {
      let n = 0
      for (; Date.now() < end; n++) await once()
      return n
    }),
  )
  return (counts.reduce((a, b) => a + b, 0) / (Date.now() - start)) * 1000
}
await run(1)
console.log(JSON.stringify({ perSecond: await run(load.seconds) }))
agent.destroy()
