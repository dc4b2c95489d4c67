import { afterEach, describe, expect, it, vi } from 'vitest'
import { api, ApiProblem } from '../../app/composables/useApi'
import { useLoad } from '../../app/composables/useLoad'

afterEach(() => void vi.unstubAllGlobals())
const replyWith = (status: number, body: string, type = 'application/json') =>
  vi.stubGlobal('fetch', async () => new Response(body, { status, headers: { 'content-type': type } }))
const caught = async (run: () => Promise<unknown>): Promise<ApiProblem> => {
  try {
    await run()
  } catch (error) {
    if (error instanceof ApiProblem) return error
    throw error
  }
  return expect.unreachable('it should have been refused') as never
}

describe('asking the server', () => {
  it('a query and a body go out as they should', async () => {
    const sent: [string, RequestInit][] = []
    vi.stubGlobal('fetch', async (url: string, init: RequestInit) => {
      sent.push([url, init])
      return new Response('{"ok":true}')
    })
    await api('lots', { query: { search: 'CE 9 & more' } })
    await api('lots', { body: { lot: 'CE-9' } })
    await api('session', { method: 'DELETE' })
    await api('files', { body: new Blob(['x'], { type: 'image/jpeg' }) })
    expect(sent.map(([url, init]) => [init.method, url])).toEqual([
      ['GET', '/api/lots?search=CE+9+%26+more'],
      ['POST', '/api/lots'],
      ['DELETE', '/api/session'],
      ['POST', '/api/files'],
    ])
    expect(sent[1]![1].body).toBe('{"lot":"CE-9"}')
    expect((sent[3]![1].headers as Record<string, string>)['content-type']).toBe('image/jpeg')
  })
  it('a refusal keeps its code, sentence, field and details', async () => {
    replyWith(
      422,
      JSON.stringify({
        data: { code: 'bad-row', message: 'Row 3 is wrong.', field: 'quantity', details: { row: 3 } },
      }),
    )
    expect(await caught(() => api('x'))).toMatchObject({
      code: 'bad-row',
      message: 'Row 3 is wrong.',
      field: 'quantity',
      status: 422,
      details: { row: 3 },
    })
  })
  it.each([
    ['a page of a proxy', 502, '<html>Bad gateway</html>', 'text/html'],
    ['an empty reply', 500, '', 'application/json'],
    ['JSON of something else', 404, '{"error":true}', 'application/json'],
    ['half a reply', 500, '{"data":', 'application/json'],
  ])('%s is said in words, never shown', async (_what, status, body, type) => {
    replyWith(status, body, type)
    expect(await caught(() => api('x'))).toMatchObject({
      code: 'unreadable',
      status,
      message: 'The server gave no readable answer. Try again.',
    })
  })
  it('without a signal nothing was sent, and it says so', async () => {
    vi.stubGlobal('fetch', async () => {
      throw new TypeError('Failed to fetch')
    })
    expect(await caught(() => api('x', { body: {} }))).toMatchObject({ code: 'off-line', status: 0 })
  })
})

describe('loading', () => {
  it('what was there stays when loading again fails, with the reason beside it', async () => {
    let fail = false
    const { data, problem, loading, load } = useLoad(async () => {
      if (fail) throw new ApiProblem('off-line', 'No signal.', null, 0)
      return 'first'
    })
    await load()
    expect([data.value, problem.value, loading.value]).toEqual(['first', null, false])
    fail = true
    await load()
    expect([data.value, problem.value?.code, loading.value]).toEqual(['first', 'off-line', false])
    fail = false
    await load()
    expect(problem.value).toBeNull()
  })
  it('a slow reply does not overwrite a later one', async () => {
    const replies: ((v: string) => void)[] = []
    const { data, load } = useLoad(() => new Promise<string>((done) => replies.push(done)))
    const both = [load(), load()]
    replies[1]!('new')
    replies[0]!('old')
    await Promise.all(both)
    expect(data.value).toBe('new')
  })
  it('a fault of the program shows as one, and is not swallowed', async () => {
    const said = vi.spyOn(console, 'error').mockImplementation(() => undefined)
    const { problem, load } = useLoad(async () => {
      throw new RangeError('oops')
    })
    await load()
    expect(problem.value).toMatchObject({ code: 'internal', message: 'This could not be shown.' })
    expect(said).toHaveBeenCalledOnce()
    said.mockRestore()
  })
})
