import { execFileSync } from 'node:child_process'
import { describe, expect, inject, it } from 'vitest'
import { refusal } from '../../server/http/refuse'
import { Client } from './client'

/** A fault of the server's own: what the person reads, and what whoever runs the site finds of it. */
const request = '0f1e2d3c-0000-4000-8000-000000000000'
const secret = 'insert into people values (a password)'

describe('a fault of the server', () => {
  it('says nothing of itself but the number under which it is found', () => {
    const { statusCode, data, message } = refusal(new TypeError(secret), request)
    expect(statusCode).toBe(500)
    expect(data).toMatchObject({ code: 'internal', field: null, request })
    expect((data as { message: string }).message).toContain('0f1e2d3c')
    expect(JSON.stringify([data, message])).not.toContain('password')
  })
  it('is a line of the log, with the request and its place, and nothing of what people wrote', () => {
    const program = `
      const { logFault } = await import('./server/log.ts')
      logFault('A request failed.', Object.assign(new TypeError(${JSON.stringify(secret)}), { errno: 1064 }), '${request}')`
    const out = execFileSync('node', ['--import', 'tsx', '--input-type=module', '-e', program], {
      encoding: 'utf8',
      env: { ...process.env, TSX_TSCONFIG_PATH: 'tsconfig.tools.json' },
    })
    const line = JSON.parse(out.trim().split('\n').at(-1)!) as Record<string, unknown>
    expect(line).toMatchObject({
      request,
      msg: 'A request failed.',
      fault: { name: 'TypeError', errno: 1064 },
    })
    expect((line.fault as { places: string[] }).places[0]).toMatch(/^at /)
    expect(new Date(String(line.time)).getTime()).toBeGreaterThan(Date.now() - 60_000)
    expect(out).not.toContain('password')
  })
})

it('every reply has a number of its own, also one that is refused', async () => {
  const { address } = new Client(inject('address'))
  const numbers = await Promise.all(
    ['/api/session', '/api/nowhere', '/sign-in'].map(async (path) => {
      const reply = await fetch(`${address}${path}`, { headers: { connection: 'close' } })
      return reply.headers.get('x-request-id')
    }),
  )
  for (const n of numbers) expect(n).toMatch(/^[0-9a-f]{8}-[0-9a-f-]{27}$/)
  expect(new Set(numbers).size).toBe(3)
})
