import pino from 'pino'

/** What the server says of itself, a line of JSON each, for whoever runs it. */
const log = pino({ base: undefined, timestamp: pino.stdTimeFunctions.isoTime })

/**
 * A fault of our own: where it was, never what people wrote – the message of a database error holds the
 * statement with its values.
 *
 * @param request id of the request that met it, which the reply names too
 */
export function logFault(what: string, error: unknown, request?: string): void {
  const { name, code, errno, stack } = (error ?? {}) as Partial<
    Record<'name' | 'code' | 'stack', string> & { errno: number }
  >
  const places = (stack ?? '')
    .split('\n')
    .filter((line) => /^\s+at /.test(line))
    .slice(0, 12)
    .map((line) => line.trim())
  log.error({ ...(request && { request }), fault: { name, code, errno, places } }, what)
}
