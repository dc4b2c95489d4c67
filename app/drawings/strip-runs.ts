import type { SubjectState } from '#core/judgement/types'

/** What must not be hidden by its neighbours when many joints share a pixel: the most urgent state shows. */
const urgency: SubjectState[] = [
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

/**
 * Joints as runs of pixels: neighbours of one state that touch become one run, so that
 * twenty thousand joints draw as fast as twenty.
 */
export function runsOf(joints: readonly RunJoint[], x: (station: number) => number, pixel = 3): Run[] {
  const columns = new Map<number, { state: SubjectState; count: number }>()
  for (const joint of joints) {
    const column = Math.round(x(joint.station) / pixel)
    const known = columns.get(column)
    const state =
      known && urgency.indexOf(known.state) > urgency.indexOf(joint.state) ? known.state : joint.state
    columns.set(column, { state, count: (known?.count ?? 0) + 1 })
  }
  const runs: Run[] = []
  for (const [column, { state, count }] of [...columns].sort(([a], [b]) => a - b)) {
    const last = runs.at(-1)
    const left = column * pixel
    if (last && last.state === state && left - (last.x + last.width) <= pixel * 4 && state === 'accepted') {
      last.width = left + pixel - last.x
      last.count += count
    } else runs.push({ x: left, width: pixel, state, count })
  }
  return runs
}
