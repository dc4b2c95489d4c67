import { demoPassword } from '../../demo/people'

export interface Reply {
  status: number
  body: unknown
  problem: { code: string; message: string; field: string | null } | null
}

/** A signed-in person talking to the server over HTTP, as a browser would. */
export class Client {
  private cookie = ''
  constructor(readonly address: string) {}

  async signIn(name: string): Promise<this> {
    const attempt = () =>
      fetch(`${this.address}/api/session`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ signIn: name, password: demoPassword }),
      })
    let reply = await attempt()
    // Wrong secrets that another test typed on purpose may have closed the door for a moment.
    for (let i = 0; reply.status === 429 && i < 5; i++) {
      const { wait } = ((await reply.json()) as { data: { details?: { wait?: number } } }).data.details ?? {}
      await new Promise((resolve) => setTimeout(resolve, wait ?? 1000))
      reply = await attempt()
    }
    if (!reply.ok) throw new Error(`sign-in of ${name}: ${reply.status} ${await reply.text()}`)
    this.cookie = reply.headers.getSetCookie()[0]!.split(';')[0]!
    return this
  }

  async call(
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<Reply> {
    const send = () =>
      fetch(`${this.address}/api/${path}`, {
        method,
        headers: {
          cookie: this.cookie,
          // None is kept: one that the server has just closed would fail a question that it never saw.
          connection: 'close',
          ...(body === undefined ? {} : { 'content-type': 'application/json' }),
          ...headers,
        },
        body: body === undefined ? undefined : JSON.stringify(body),
        // Far beyond what an answer takes: on a machine that does much else a document waits for its turn.
        signal: AbortSignal.timeout(90_000),
      })
    // A connection that was kept too long is closed by the other side: a question is put once more.
    const reply = await send().catch((error: unknown) => {
      if (method !== 'GET' || !(error instanceof TypeError)) throw error
      return send()
    })
    const text = reply.headers.get('content-type')?.includes('json') ? await reply.text() : ''
    const parsed = text ? (JSON.parse(text) as { data?: Reply['problem'] }) : null
    return { status: reply.status, body: parsed, problem: reply.ok ? null : (parsed?.data ?? null) }
  }
  get = (path: string) => this.call('GET', path)
  post = (path: string, body: unknown) => this.call('POST', path, body)
}

/** Several people, each signed in. */
export const signedIn = (address: string, ...names: string[]): Promise<Client[]> =>
  Promise.all(names.map((name) => new Client(address).signIn(name)))

export const base = 'projects/skerry-head'
