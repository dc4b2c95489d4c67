import { describe, expect, it } from 'vitest'
import { leftOpen, rainCaution, type AtWorkToday } from '../../../core/crew/end-of-day'
import { judge } from '../../../core/judgement/judge'
import { exampleFacts } from '../../../core/procedure/facts'
import { loadProcedure } from '../../../core/procedure/load'
import type { Entry } from '../../../core/record/entry'
import { procedureSource } from '../../../demo/system-records'
import { electrofusion, entry, facts180, T0, yes } from '../support'

const HOUR = 3_600_000
const flexible = loadProcedure(procedureSource('embed-flexible'))
const facts = exampleFacts(flexible.procedure)
const since = T0
const reach = (entries: Entry[], now = T0 + 8 * HOUR): AtWorkToday => ({
  ...{ id: 'r', name: 'GS reach 1', of: 'reach', compiled: flexible, entries },
  judgement: judge(flexible, facts, entries, now),
})
const joint = (entries: Entry[]): AtWorkToday => ({
  ...{ id: 'j', name: 'RM-001', of: 'joint', compiled: electrofusion, entries },
  judgement: judge(electrofusion, facts180, entries, T0 + HOUR),
})
const lift = (minute: number) =>
  entry(
    'lifts',
    'lift',
    {
      ...{ side: 'both', thickness: 0.2, passes: 4, plant: 'hand', material: 'gravel', moisture: 'damp' },
      haunched: true,
    },
    minute,
  )
const kinds = (work: AtWorkToday[]) => leftOpen(work, since).map((l) => [l.kind, l.step])
/** Enough lifts that the reach is filled. */
const filled = [
  entry('bed-thickness', 'reading', { values: [0.12], typed: ['120 mm'] }, 5),
  ...[10, 20, 30, 40].map(lift),
]

describe('what would be left open over night', () => {
  it('a joint that was begun, with what comes next at it', () => {
    const left = leftOpen([joint([yes(electrofusion.steps[0]!.step.key)])], since)
    expect(left).toEqual([
      expect.objectContaining({
        of: 'joint',
        kind: 'joint',
        says: expect.stringMatching(/^Open joint, next: /),
      }),
    ])
  })
  it('nothing of what was never begun', () => expect(kinds([joint([]), reach([])])).toEqual([]))
  it('a reach that is not filled, and its end', () =>
    expect(kinds([reach([yes('trench-looked'), lift(10)])])).toEqual([
      ['fill', 'lifts'],
      ['end', 'end-closed'],
    ]))
  it('how high it is filled is told', () =>
    expect(leftOpen([reach([lift(10)])], since)[0]!.says).toContain('left 170 mm, right 170 mm'))
  it('an end that was closed today is closed', () =>
    expect(kinds([reach([lift(10), entry('end-closed', 'confirmation', { answer: 'yes' }, 60)])])).toEqual([
      ['fill', 'lifts'],
    ]))
  it.each([
    ['yesterday', { answer: 'yes' }, -60],
    ['with no', { answer: 'no' }, 60],
  ])('an end that was answered %s is open', (_what, payload, minute) =>
    expect(kinds([reach([lift(10), entry('end-closed', 'confirmation', payload, minute)])])).toContainEqual([
      'end',
      'end-closed',
    ]),
  )
  it('a reach that is filled has no open end, whatever else waits at it', () =>
    expect(kinds([reach(filled)])).toEqual([]))
})

describe('rain in the night', () => {
  it('floats an empty pipe', () =>
    expect(rainCaution(leftOpen([reach([lift(10)])], since))).toMatch(/floats/))
  it('wets an open joint', () =>
    expect(rainCaution(leftOpen([joint([yes(electrofusion.steps[0]!.step.key)])], since))).toMatch(
      /Keep water/,
    ))
  it('does nothing where nothing is open', () => expect(rainCaution([])).toBeNull())
})
