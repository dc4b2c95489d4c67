import { createError, type H3Error } from 'h3'
import { ValidationError } from 'yup'
import { Problem } from '#core/problem'

const statuses: Record<string, number> = {
  'not-found': 404,
  forbidden: 403,
  'signed-out': 401,
  'bad-sign-in': 401,
  'bad-secret': 403,
  'too-many': 429,
  'too-large': 413,
  'cross-site': 403,
  'id-taken': 409,
  'already-open': 409,
  'wrong-state': 409,
  duplicate: 409,
  'own-work': 403,
  changed: 409,
  'not-ready': 409,
  'signed-off': 409,
  busy: 503,
}

/** A fault of our own, for whoever runs the site: where it was, never what people wrote. */
function logFault(error: unknown) {
  const { name, code, errno, stack } = (error ?? {}) as {
    name?: string
    code?: string
    errno?: number
    stack?: string
  }
  // The message of a database error holds the statement with its values.
  const places = (stack ?? '')
    .split('\n')
    .filter((line) => /^\s+at /.test(line))
    .slice(0, 12)
  console.error(
    [new Date().toISOString(), name, code, errno].filter(Boolean).join(' '),
    `\n${places.join('\n')}`,
  )
}

/** Turns what went wrong into a reply with code, sentence and field – never a stack. */
export function refusal(error: unknown): H3Error {
  if (error instanceof Problem) {
    return createError({
      statusCode: statuses[error.code] ?? 422,
      statusMessage: error.code,
      data: {
        code: error.code,
        message: error.message,
        field: error.field,
        ...(error.details ? { details: error.details } : {}),
      },
    })
  }
  if (error instanceof ValidationError) {
    return createError({
      statusCode: 422,
      statusMessage: 'bad-input',
      data: { code: 'bad-input', message: error.message, field: error.path || null },
    })
  }
  if (
    typeof error === 'object' &&
    error !== null &&
    'statusCode' in error &&
    Number(error.statusCode) < 500
  ) {
    return createError({
      statusCode: Number(error.statusCode),
      statusMessage: 'bad-request',
      data: { code: 'bad-request', message: 'The request could not be read.', field: null },
    })
  }
  // Two people entered the same thing at the same moment; the first one has it.
  if ((error as { errno?: number } | null)?.errno === 1062)
    return createError({
      statusCode: 409,
      statusMessage: 'duplicate',
      data: {
        code: 'duplicate',
        message: 'The same was entered a moment ago: load it again and look.',
        field: null,
      },
    })
  logFault(error)
  return createError({
    statusCode: 500,
    statusMessage: 'internal',
    data: {
      code: 'internal',
      message: 'Something went wrong on the server; nothing was changed. Try again.',
      field: null,
    },
  })
}
