import type { Change } from '../judgement/ahead'
import type { SubjectState } from '../judgement/types'

/** One joint as the strip of its line draws it. */
export interface StripJoint {
  id: string
  number: string
  /** m */
  station: number
  crew: string
  state: SubjectState
  /** states that it comes into by time alone, the next first */
  changes: readonly Change[]
  opened: boolean
  delivered: boolean
  ncr: boolean
  /** title of the step that comes next */
  next: string | null
  done: number
  applicable: number
}

/**
 * Joints by column, so that twenty thousand of them travel in little room: words that repeat stand once in
 * a dictionary, and a station is told by its distance from the one before, in mm.
 */
export interface StripColumns {
  ids: string[]
  numbers: string[]
  /** mm from the joint before; the first from 0 */
  steps: number[]
  words: string[]
  /** places in `words`; −1 for none */
  crews: number[]
  states: number[]
  next: number[]
  /** 1 opened, 2 delivered, 4 with an open NCR */
  flags: number[]
  done: number[]
  applicable: number[]
  /** joint by its place, ms, place of the state in `words` */
  changes: [joint: number, at: number, state: number][]
}

/** Where a text is in the dictionary, put there when it is new. */
class Dictionary {
  readonly words: string[] = []
  private readonly at = new Map<string, number>()

  place(word: string | null): number {
    if (word === null) return -1
    const known = this.at.get(word)
    if (known !== undefined) return known
    this.at.set(word, this.words.length)
    return this.words.push(word) - 1
  }
}

/** Joints as columns. Stations are kept to the millimetre. */
export function packStrip(joints: readonly StripJoint[]): StripColumns {
  const words = new Dictionary()
  const mm = joints.map((j) => Math.round(j.station * 1000))
  return {
    ids: joints.map((j) => j.id),
    numbers: joints.map((j) => j.number),
    steps: mm.map((at, i) => at - (mm[i - 1] ?? 0)),
    words: words.words,
    crews: joints.map((j) => words.place(j.crew)),
    states: joints.map((j) => words.place(j.state)),
    next: joints.map((j) => words.place(j.next)),
    flags: joints.map((j) => Number(j.opened) + 2 * Number(j.delivered) + 4 * Number(j.ncr)),
    done: joints.map((j) => j.done),
    applicable: joints.map((j) => j.applicable),
    changes: joints.flatMap((j, i) =>
      j.changes.map((c): [number, number, number] => [i, c.at, words.place(c.state)]),
    ),
  }
}

/** The joints of columns, as they were packed. */
export function unpackStrip(columns: StripColumns): StripJoint[] {
  const word = (place: number) => columns.words[place]!
  const changes = new Map<number, Change[]>()
  for (const [joint, at, state] of columns.changes) {
    const change = { at, state: word(state) as SubjectState }
    changes.set(joint, [...(changes.get(joint) ?? []), change])
  }
  let mm = 0
  return columns.ids.map((id, i) => {
    mm += columns.steps[i]!
    const flags = columns.flags[i]!
    return {
      id,
      number: columns.numbers[i]!,
      station: mm / 1000,
      crew: word(columns.crews[i]!),
      state: word(columns.states[i]!) as SubjectState,
      changes: changes.get(i) ?? [],
      opened: (flags & 1) !== 0,
      delivered: (flags & 2) !== 0,
      ncr: (flags & 4) !== 0,
      next: columns.next[i]! < 0 ? null : word(columns.next[i]!),
      done: columns.done[i]!,
      applicable: columns.applicable[i]!,
    }
  })
}
