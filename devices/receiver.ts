import { createHmac, timingSafeEqual } from 'node:crypto'
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { parseArgs } from 'node:util'
import type { Announcement } from '../core/record/announced'

const usage = `./vet-line receiver --secret S  a receiver of announcements, as another program would be one
  --port N                where it listens on this machine; --refuse N: it refuses so many posts first`

/** What a post said, once its signature was found to be right. */
export interface Received {
  project: string
  announcements: Announcement[]
}

/** Longer ago than this a post was not just sent: it may be somebody else's copy of it. */
const FRESH = 5 * 60_000

/** Whether a post comes from the site that shares the secret, and was sent just now. */
export function genuine(
  secret: string,
  time: string,
  body: string,
  signature: string,
  now = Date.now(),
): boolean {
  const wanted = createHmac('sha256', secret).update(`${time}\n${body}`).digest()
  const given = Buffer.from(signature, 'hex')
  const age = Math.abs(now - Date.parse(time))
  return given.length === wanted.length && timingSafeEqual(given, wanted) && age <= FRESH
}

/** A stand-in for another program that is told what happens: takes what is genuine, each announcement once. */
export class Receiver {
  private readonly server: Server
  private readonly known = new Set<string>()
  readonly taken: Announcement[] = []
  /** posts that were not taken */
  refused = 0

  constructor(
    private readonly secret: () => string,
    private refuse = 0,
    private readonly told: (news: Announcement[]) => void = () => undefined,
  ) {
    this.server = createServer((request, reply) => {
      const parts: Buffer[] = []
      request.on('data', (part: Buffer) => parts.push(part))
      request.on('end', () => {
        const header = (name: string) => String(request.headers[name] ?? '')
        const body = Buffer.concat(parts).toString('utf8')
        reply.statusCode = this.take(header('x-vet-line-time'), body, header('x-vet-line-signature'))
        reply.end()
      })
    })
  }

  private take(time: string, body: string, signature: string): number {
    if (!genuine(this.secret(), time, body, signature)) {
      this.refused++
      return 401
    }
    if (this.refuse > 0) {
      this.refuse--
      this.refused++
      return 503
    }
    const { announcements } = JSON.parse(body) as Received
    const news = announcements.filter((a) => !this.known.has(a.id))
    for (const a of news) this.known.add(a.id)
    this.taken.push(...news)
    this.told(news)
    return 204
  }

  /** @returns the address that it listens at */
  async start(port = 0): Promise<string> {
    await new Promise<void>((resolve) => this.server.listen(port, '127.0.0.1', resolve))
    return `http://127.0.0.1:${(this.server.address() as AddressInfo).port}/`
  }

  async stop(): Promise<void> {
    this.server.closeAllConnections()
    await new Promise((resolve) => this.server.close(resolve))
  }
}

/** Listens until a signal comes, and says what it is told. */
export async function runReceiver(args: string[], say: (line: string) => void): Promise<void> {
  const { values } = parseArgs({
    args,
    options: {
      secret: { type: 'string' },
      port: { type: 'string', default: '4390' },
      refuse: { type: 'string', default: '0' },
    },
  })
  const { secret } = values
  if (!secret) throw new Error(usage)
  const receiver = new Receiver(
    () => secret,
    Number(values.refuse),
    (news) => news.forEach((a) => say(`${a.at}  ${a.says}: ${a.subject.name}${a.step ? `, ${a.step}` : ''}`)),
  )
  say(`Listens at ${await receiver.start(Number(values.port))}`)
  await new Promise((resolve) => process.once('SIGINT', resolve).once('SIGTERM', resolve))
  await receiver.stop()
}
