import { keepReply, keptReply } from '../device/kept'
import { signal } from '../device/signal'
import { hearServerTime } from './useNow'
import { unitsHeader } from './useSiteUnits'
import { DEVICE_HEADER, deviceId, keepStamp, STAMP_HEADER } from './device'

/** A refusal of the server: a code, a sentence, the field it is about. */
export class ApiProblem extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly field: string | null,
    readonly status: number,
    readonly details?: Record<string, unknown>,
  ) {
    super(message)
  }
}

/** What came between, to be said to a person; what is no refusal is left in the console as well. */
export function problemOf(error: unknown, failed: string): ApiProblem {
  if (error instanceof ApiProblem) return error
  console.error(error)
  return new ApiProblem('failed', failed, null, 0)
}

interface Options {
  method?: 'GET' | 'POST' | 'DELETE'
  body?: unknown
  query?: Record<string, string>
}

async function explain(reply: Response): Promise<ApiProblem> {
  const body = (await reply.json().catch(() => null)) as {
    data?: { code: string; message: string; field: string | null; details?: Record<string, unknown> }
  } | null
  if (body?.data?.code)
    return new ApiProblem(body.data.code, body.data.message, body.data.field, reply.status, body.data.details)
  return new ApiProblem('unreadable', 'The server gave no readable answer. Try again.', null, reply.status)
}

/**
 * Calls the server. Without a signal, what a view of the field asks for is answered from the device's
 * store.
 *
 * @throws ApiProblem, also when there is no signal (`off-line`)
 */
export async function api<T>(path: string, options: Options = {}): Promise<T> {
  const query = options.query ? `?${new URLSearchParams(options.query).toString()}` : ''
  const blob = options.body instanceof Blob
  let reply: Response
  try {
    reply = await fetch(`/api/${path}${query}`, {
      method: options.method ?? (options.body === undefined ? 'GET' : 'POST'),
      headers: {
        [DEVICE_HEADER]: deviceId(),
        ...unitsHeader(),
        ...(options.body === undefined
          ? {}
          : { 'content-type': blob ? (options.body as Blob).type : 'application/json' }),
      },
      body:
        options.body === undefined ? undefined : blob ? (options.body as Blob) : JSON.stringify(options.body),
    })
  } catch {
    signal.value = false
    const kept = options.body === undefined && !options.method ? await keptReply(`${path}${query}`) : null
    if (kept !== null) return kept as T
    throw new ApiProblem('off-line', 'No signal: nothing was sent. What you typed is still here.', null, 0)
  }
  signal.value = true
  const at = keepStamp(reply.headers.get(STAMP_HEADER))
  if (at !== null) hearServerTime(at)
  if (!reply.ok) throw await explain(reply)
  const value = (await reply.json()) as T
  if (options.body === undefined && !options.method)
    void keepReply(`${path}${query}`, value).catch(() => undefined)
  return value
}
