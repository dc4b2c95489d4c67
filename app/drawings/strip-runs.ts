import type { SubjectState } from '#core/judgement/types'

/** What must not be hidden by its neighbours when many joints share a pixel: the most urgent state shows. */
const urgency: SubjectState[] = [
  'withdrawn',
  'accepted',
  'not-started',
  'in-work',
  'waiting',
  'too-close',
  'held',
  'rejected',
]

export const stateColour: Record<SubjectState, string> = {
  accepted: 'var(--accepted)',
  'not-started': 'var(--idle)',
  withdrawn: 'var(--hair)',
  'in-work': 'var(--line)',
  waiting: 'var(--waiting)',
  'too-close': 'var(--too-close)',
  held: 'var(--held)',
  rejected: 'var(--rejected)',
}

/** What a run needs to know of a joint. */
export interface RunJoint {
  station: number
  state: SubjectState
}

export interface Run {
  x: number
  width: number
  state: SubjectState
  count: number
}

/** Joints between two stations, of a list in the direction of the line. */
export function within<J extends RunJoint>(joints: readonly J[], from: number, to: number): readonly J[] {
  /** the first that is not before a station */
  const first = (station: number) => {
    let [low, high] = [0, joints.length]
    while (low < high) {
      const middle = (low + high) >> 1
      if (joints[middle]!.station < station) low = middle + 1
      else high = middle
    }
    return low
  }
  let end = first(to)
  while (end < joints.length && joints[end]!.station === to) end++
  return joints.slice(first(from), end)
}

const rank = Object.fromEntries(urgency.map((state, i) => [state, i])) as Record<SubjectState, number>

/**
 * Joints as runs of pixels: neighbours of one state that touch become one run, so that
 * twenty thousand joints draw as fast as twenty.
 *
 * @param joints in the direction of the line
 */
export function runsOf(joints: readonly RunJoint[], x: (station: number) => number, pixel = 3): Run[] {
  const columns: { at: number; rank: number; count: number }[] = []
  for (const { station, state } of joints) {
    const at = Math.round(x(station) / pixel)
    const last = columns[columns.length - 1]
    if (last?.at === at) {
      last.count++
      if (rank[state] > last.rank) last.rank = rank[state]
    } else columns.push({ at, rank: rank[state], count: 1 })
  }
  const runs: Run[] = []
  for (const column of columns) {
    const state = urgency[column.rank]!
    const last = runs.at(-1)
    const left = column.at * pixel
    if (last && last.state === state && left - (last.x + last.width) <= pixel * 4 && state === 'accepted') {
      last.width = left + pixel - last.x
      last.count += column.count
    } else runs.push({ x: left, width: pixel, state, count: column.count })
  }
  return runs
}
