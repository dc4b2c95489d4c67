import { Problem } from '../../core/problem'

/** The code and field with which something is refused; null where it is not. */
export function refusal(run: () => unknown): [code: string, field: string | null] | null {
  try {
    run()
    return null
  } catch (error) {
    if (error instanceof Problem) return [error.code, error.field]
    throw error
  }
}

/** The problem with which something is refused: its code, its field and its sentence. */
export function refused(run: () => unknown): Problem {
  try {
    run()
  } catch (error) {
    if (error instanceof Problem) return error
    throw error
  }
  throw new Error('It was not refused.')
}
