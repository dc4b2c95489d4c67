import { describe, expect, it } from 'vitest'
import { clockStart } from '../../../core/judgement/clock-start'
import type { Formula } from '../../../core/formula/formula'
import type { Entry } from '../../../core/record/entry'
import type { CompiledStep } from '../../../core/procedure/compile'
import type { StepState } from '../../../core/checks/verdict'
import { entry, T0, yes } from '../entries'
import { small } from './support'

/** When a clock began, by the step it counts from, and when its times come. */
const at = (minute: number) => T0 + minute * 60_000
const off = small.steps[small.stepIndex.get('off')!]!
const cured = small.steps[small.stepIndex.get('cured')!]!
const seconds = (formula: Formula | null) => {
  const v = formula?.evaluate([])
  return typeof v === 'number' && Number.isFinite(v) ? v : null
}
const start = (entries: Entry[], state: StepState = 'accepted', step: CompiledStep = off, decides?: string) =>
  clockStart(step, {
    from: { state, entry: decides ?? entries[0]?.id ?? null },
    entries,
    worth: seconds,
    missing: () => 'air temperature is not known',
  })

describe('a clock', () => {
  it('begins with its step: its earliest and its latest time follow', () =>
    expect(start([yes('joined', 5)])).toEqual({
      ...{ at: at(5), late: false, state: 'accepted', until: at(35), latest: at(65), timeless: null },
    }))
  it('begins also with what was rejected: it was done', () =>
    expect(start([yes('joined', 5)], 'rejected').until).toBe(at(35)))
  it.each(['not-started', 'held', 'blocked', 'differs', 'waiting'] as const)(
    'does not begin with a step that is %s',
    (state) => expect(start([yes('joined', 5)], state)).toMatchObject({ at: null, until: null, state }),
  )
  it('does not begin where the entry that decides is not there', () =>
    expect(start([yes('joined', 5)], 'accepted', off, 'another').at).toBeNull())
  it('of times that cannot be worked out says why', () =>
    expect(start([yes('joined', 5)], 'accepted', cured)).toMatchObject({
      ...{ at: at(5), until: null, latest: null, timeless: 'air temperature is not known' },
    }))
})

describe('a start that came late', () => {
  const late = (more: Partial<Entry> = {}) => yes('joined', 5, { late: true, receivedAt: at(50), ...more })
  it('proves no time: what must have passed counts from its arrival', () =>
    expect(start([late()])).toMatchObject({ late: true, at: at(5), until: at(80), latest: at(65) }))
  it('without its arrival has no time at all', () =>
    expect(start([late({ receivedAt: undefined })])).toMatchObject({
      ...{ until: null, timeless: 'its start was recorded late' },
    }))
  it('that an inspector has spoken for is as good as any', () => {
    const word = (verdict: string) =>
      entry('joined', 'decision', { verdict, reason: 'I stood there.' }, 60, { role: 'inspector' })
    expect(start([late(), word('accept')])).toMatchObject({ late: false, until: at(35) })
    expect(start([late(), word('reject')])).toMatchObject({ late: true, until: at(80) })
  })
})
