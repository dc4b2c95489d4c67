/** A stretch of line, m. */
export interface Stretch {
  from: number
  to: number
}
/** What a test of a part said. */
export interface PartTest extends Stretch {
  tight: boolean
}

const NEAR = 0.01

/** Structures at which a line can be shut, so that a part of it is tested by itself. */
const SHUTS: ReadonlySet<string> = new Set(['valve', 'closure', 'manhole'])
export const canBeShut = (structure: string): boolean => SHUTS.has(structure)

/** What a test of a part says of its stretch; null while it says nothing yet. */
export function tightBy(state: string, verdict: string | null): boolean | null {
  if (state === 'failed') return false
  return state === 'evaluated' || state === 'signed' ? verdict === 'accept' : null
}

/**
 * Where the leak of a failed test may still be: what a tight part covers is out; where a part failed, a leak
 * is in it. Later tests go before earlier ones.
 *
 * @param whole the stretch that failed
 * @param parts tests of parts of it, in the order in which they were made
 */
export function suspectStretches(whole: Stretch, parts: readonly PartTest[]): Stretch[] {
  let left: Stretch[] = [{ from: whole.from, to: whole.to }]
  for (const part of parts) {
    if (part.tight)
      left = left.flatMap((s) => [
        { from: s.from, to: Math.min(s.to, part.from) },
        { from: Math.max(s.from, part.to), to: s.to },
      ])
    else left = left.map((s) => ({ from: Math.max(s.from, part.from), to: Math.min(s.to, part.to) }))
    left = left.filter((s) => s.to - s.from > NEAR)
  }
  return left
}

export interface NextSplit {
  /** where the line is parted next, m */
  at: number
  /** an isolation that stands there; null where a joint has to be opened */
  name: string | null
}

/**
 * Where to part the suspect stretch next: as near its middle as an isolation stands, within the middle half;
 * else between the joints nearest to the middle.
 *
 * @param places where the line can be shut, and joints at which it could be opened
 * @returns null where nothing parts it any more
 */
export function nextSplit(
  suspect: Stretch,
  places: readonly { at: number; name: string | null }[],
): NextSplit | null {
  const middle = (suspect.from + suspect.to) / 2
  const inside = places
    .filter((p) => p.at > suspect.from + NEAR && p.at < suspect.to - NEAR)
    .sort((a, b) => Math.abs(a.at - middle) - Math.abs(b.at - middle))
  const central = inside.filter((p) => Math.abs(p.at - middle) <= (suspect.to - suspect.from) / 4)
  return central.find((p) => p.name !== null) ?? central[0] ?? inside[0] ?? null
}

/**
 * How many more tests halving takes on the mean, against opening every joint: the depth of a tree with one
 * leaf for each joint that may leak.
 *
 * @param joints within the suspect stretches
 */
export function expectedTests(joints: number): number {
  if (joints <= 1) return 0
  const depth = Math.floor(Math.log2(joints))
  const deeper = joints - 2 ** depth
  return depth + (2 * deeper) / joints
}
