/** What the runner asks the process that holds the tests: all of them once, or those that reach a fault. */
export interface Question {
  /** null asks for all tests, without any fault */
  fault: string | null
  tests: string[]
  /** a place passed so often is an endless loop */
  hitLimit: number
}

/** What it answers. */
export type Answer =
  | {
      tests: { id: string; name: string; ms: number; failure: string | null }[]
      coverage: { static: Record<string, number>; perTest: Record<string, Record<string, number>> }
    }
  /** nobody noticed */
  | { by: null; run: number }
  | {
      by: string
      run: number
      failure: string
      endless: boolean
      /** the fault has left something behind: the tests must be loaded anew */
      left: boolean
    }
