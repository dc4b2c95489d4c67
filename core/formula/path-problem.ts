import { Problem } from '../problem'

/** A fault at a place in the document; the loader turns the path into line and column. */
export class PathProblem extends Error {
  constructor(
    message: string,
    readonly path: string,
    readonly offset = 0,
  ) {
    super(message)
  }
}

/** Runs a part of the compilation and gives its refusals a place. */
export function located<T>(path: string, run: () => T): T {
  try {
    return run()
  } catch (error) {
    if (error instanceof Problem)
      throw new PathProblem(error.message, path, Number(error.details?.offset ?? 0))
    throw error
  }
}
