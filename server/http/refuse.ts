import { createError, type H3Error } from 'h3'
import { ValidationError } from 'yup'
import { Problem } from '#core/problem'
import { logFault } from '../log'

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

/**
 * Turns what went wrong into a reply with code, sentence and field – never a stack.
 *
 * @param request id of the request: of a fault of our own the log and the reply name it
 */
export function refusal(error: unknown, request = ''): H3Error {
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
  logFault('A request failed.', error, request)
  return createError({
    statusCode: 500,
    statusMessage: 'internal',
    data: {
      code: 'internal',
      message:
        'Something went wrong on the server; nothing was changed. Try again; if it stays, tell whoever runs ' +
        `the site the number ${request.slice(0, 8)}.`,
      field: null,
      request,
    },
  })
}
