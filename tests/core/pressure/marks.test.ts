import { describe, expect, it } from 'vitest'
import { checkMark, marksNow, marksOf, type MarkKind } from '../../../core/pressure/marks'
import { findTestMethod } from '../../../core/pressure/methods/registry'
import type { Entry } from '../../../core/record/entry'

/** What people mark on a trace: of which run, in which order, and what can be marked when. */
const T0 = Date.parse('2026-03-09T06:00:00Z')
const MINUTE = 60_000
let n = 0
const entry = (kind: Entry['kind'], payload: Record<string, unknown> = {}) =>
  ({ id: `e${++n}`, kind, payload, step: null, person: 'tam', recordedAt: T0 + n }) as unknown as Entry
const mark = (kind: MarkKind, minute: number) =>
  entry('event', { kind, at: new Date(T0 + minute * MINUTE).toISOString() })

describe('the marks of a run', () => {
  it('are those since it was started, in order of their times, each with who set it', () => {
    const said = [
      ...[mark('end', 1), entry('start'), mark('lowering', 30), entry('remark', { text: 'Windy.' })],
      mark('reached', 10),
    ]
    expect(marksOf(said)).toEqual([
      { id: said[4]!.id, kind: 'reached', at: T0 + 10 * MINUTE, by: 'tam' },
      { id: said[2]!.id, kind: 'lowering', at: T0 + 30 * MINUTE, by: 'tam' },
    ])
  })
  it('of the last run alone count', () =>
    expect(marksOf([entry('start'), mark('vented', 1), entry('start'), mark('paused', 2)])).toMatchObject([
      { kind: 'paused' },
    ]))
})

describe('what comes next', () => {
  const next = (method: string, ...kinds: MarkKind[]) =>
    marksNow(
      findTestMethod(method),
      kinds.map((kind, i) => ({ id: String(i), kind, at: i, by: '' })),
    )
  it.each<[string, MarkKind[], MarkKind[]]>([
    ['hydro-drop', [], ['reached', 'pump-on', 'vented', 'paused', 'leak-found', 'end']],
    ['hydro-drop', ['reached', 'pump-on'], ['pump-off', 'vented', 'paused', 'leak-found', 'end']],
    ['hydro-drop', ['reached', 'pump-on', 'pump-off'], ['pump-on', 'vented', 'paused', 'leak-found', 'end']],
    ['hydro-drop', ['paused'], ['resumed', 'leak-found', 'end']],
    ['hydro-drop', ['paused', 'resumed'], ['reached', 'pump-on', 'vented', 'paused', 'leak-found', 'end']],
    ['hydro-drop', ['end'], []],
    ['low-pressure-air', ['reached'], ['paused', 'leak-found', 'end']],
    ['pe-expansion', ['reached'], ['pump-on', 'vented', 'lowering', 'paused', 'leak-found', 'end']],
    [
      'pe-expansion',
      ['reached', 'lowering'],
      ['pump-on', 'vented', 'lowered', 'paused', 'leak-found', 'end'],
    ],
    [
      'pe-three-phase',
      ['reached', 'lowering', 'lowered'],
      ['pump-on', 'vented', 'paused', 'leak-found', 'end'],
    ],
  ])('%s after %j: %j', (method, kinds, wanted) => expect(next(method, ...kinds)).toEqual(wanted))
})

describe('a mark', () => {
  const [begun, now] = [T0, T0 + 60 * MINUTE]
  const refusal = (kind: MarkKind, at: number) =>
    checkMark(findTestMethod('hydro-drop'), [], kind, at, begun, now)
  it.each<[string, MarkKind, number, string | null]>([
    ['in its run', 'reached', T0, null],
    ['a minute ahead of this clock', 'reached', now + MINUTE, null],
    ['further ahead', 'reached', now + MINUTE + 1, 'This time is still to come.'],
    ['half an hour before the start was pressed', 'reached', T0 - 30 * MINUTE, null],
    ['before that', 'reached', T0 - 30 * MINUTE - 1, 'This time lies before the test was started.'],
    ['that does not come now', 'lowered', T0, '"Lowered" does not come now.'],
  ])('%s', (_what, kind, at, why) => expect(refusal(kind, at)).toBe(why))
})
