import type { Reading } from './pipe'

/** so many readings go in one request */
const BATCH = 500
/** so many are kept while the site is out of reach: a day at one a second */
const MOST_KEPT = 86_400

export interface Place {
  address: string
  project: string
  pack: string
}

/** Signs a device in as the person who runs the test. @throws when the site refuses */
export async function signIn(address: string, name: string, password: string): Promise<string> {
  const reply = await fetch(`${address}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ signIn: name, password }),
  })
  if (!reply.ok) throw new Error(`The logger could not sign in: ${reply.status}`)
  return reply.headers.getSetCookie()[0]!.split(';')[0]!
}

/** The id of a pack by its number. @throws when there is none that this person sees */
export async function packByNumber(address: string, project: string, number: string, cookie: string) {
  const reply = await fetch(`${address}/api/projects/${project}/packs`, { headers: { cookie } })
  if (!reply.ok) throw new Error(`The test packs could not be read: ${reply.status}`)
  const found = ((await reply.json()) as { id: string; number: string }[]).find((p) => p.number === number)
  if (!found) throw new Error(`There is no test pack ${number}.`)
  return found.id
}

/**
 * Readings on their way to a running test. What cannot be sent is kept and sent later, the oldest first; a
 * reading sent twice is one. What the site refuses for what it says is dropped, and told.
 */
export class Outbox {
  private readonly kept: Reading[] = []

  constructor(
    private readonly place: Place,
    private readonly cookie: string,
  ) {}

  get waiting(): number {
    return this.kept.length
  }

  add(reading: Reading): void {
    this.kept.push(reading)
    if (this.kept.length > MOST_KEPT) this.kept.shift()
  }

  /** Sends what waits. @returns what the site refused, in its words; null when all went or it is out of reach */
  async send(): Promise<string | null> {
    const { address, project, pack } = this.place
    while (this.kept.length > 0) {
      const samples = this.kept.slice(0, BATCH).map((r) => ({ ...r, at: new Date(r.at).toISOString() }))
      const reply = await fetch(`${address}/api/projects/${project}/packs/${pack}/samples`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', cookie: this.cookie },
        body: JSON.stringify({ samples }),
      }).catch(() => null)
      if (!reply || reply.status >= 500) return null
      this.kept.splice(0, samples.length)
      if (!reply.ok) return ((await reply.json()) as { message?: string }).message ?? String(reply.status)
    }
    return null
  }
}
