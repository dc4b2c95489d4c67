/**
 * How long a wrong secret keeps the next try waiting. Each guarded thing – an account, an
 * address, both together – has its own steps, so that somebody who tries at one door does
 * not shut the others.
 */
export interface Patience {
  /** tries that cost nothing */
  free: number
  /** the first wait and the longest, ms; each further failure doubles it */
  first: number
  longest: number
}

export const patience = {
  /** one account from one address */
  pair: { free: 5, first: 2000, longest: 15 * 60_000 },
  /** one account from anywhere: short, as the right person waits as long as everybody else */
  account: { free: 10, first: 1000, longest: 10_000 },
  /** one address with any names */
  address: { free: 30, first: 1000, longest: 60_000 },
  /** a device on which the person has signed in before: a lane of its own */
  known: { free: 8, first: 2000, longest: 5 * 60_000 },
  /** a PIN or password asked again within a session */
  confirm: { free: 5, first: 2000, longest: 15 * 60_000 },
} as const satisfies Record<string, Patience>

/** The wait after so many failures in a row, ms. */
export const waitAfter = (failures: number, { free, first, longest }: Patience): number =>
  failures < free ? 0 : Math.min(longest, first * 2 ** (failures - free))

/** Failures older than this are forgotten, ms. */
export const FORGOTTEN = 60 * 60_000
