/**
 * A refusal that a person can act on: a stable code, a plain sentence, and the
 * field (input key, column, step) it is about. Thrown by the core and passed
 * through every layer unchanged.
 */
export class Problem extends Error {
  readonly code: string
  readonly field: string | null
  readonly details: Record<string, unknown> | undefined

  constructor(code: string, message: string, field: string | null = null, details?: Record<string, unknown>) {
    super(message)
    this.name = 'Problem'
    this.code = code
    this.field = field
    this.details = details
  }
}
