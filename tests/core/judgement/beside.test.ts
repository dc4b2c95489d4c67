import { describe, expect, it } from 'vitest'
import { judge } from '../../../core/judgement/judge'
import { projectSubject } from '../../../core/judgement/projection'
import type { JudgeOptions } from '../../../core/judgement/types'
import type { Entry } from '../../../core/record/entry'
import { conforming, electrofusion, entry, facts180, T0 } from '../support'

/** Several parties at one step: the inspector's hold takes nothing from what others want to see of it. */
const LATE = T0 + 500 * 60_000
const HOLD = 'before-fusion'
const judged = (options: JudgeOptions, more: Entry[] = []) =>
  judge(electrofusion, facts180, [...conforming(), ...more], LATE, options)
const at = (step: string, options: JudgeOptions, more: Entry[] = []) =>
  judged(options, more).steps.find((s) => s.key === step)!

describe('a step that several parties look at', () => {
  it('is the inspector’s hold, and the client’s witness point besides', () => {
    const beside = { beside: { [HOLD]: ['W' as const] } }
    expect(at(HOLD, beside)).toMatchObject({
      ...{ point: 'H', beside: ['W'], state: 'accepted', release: { state: 'released' } },
      witness: { state: 'not-invited', unasked: true },
    })
    const said = entry(HOLD, 'invitation', { for: new Date(T0).toISOString() }, -180)
    expect(at(HOLD, beside, [said]).witness).toMatchObject({ state: 'invited', short: false })
  })
  it('that is held has its record read and is watched by others, whatever comes of the hold', () => {
    const options = { beside: { [HOLD]: ['S' as const, 'R' as const] }, drawn: [HOLD] }
    expect(at(HOLD, options)).toMatchObject({ review: { state: 'due' }, watch: { drawn: true } })
    const read = entry(HOLD, 'review', {}, 400, { person: 'hale', role: 'witness' })
    expect(at(HOLD, options, [read]).review).toMatchObject({ state: 'reviewed', by: 'hale' })
    const { summary } = projectSubject(electrofusion, facts180, conforming(), LATE, options)
    expect(summary.reviews!.map((r) => r.step)).toContain(HOLD)
    expect(summary.watches).toContainEqual(expect.objectContaining({ step: HOLD, drawn: true }))
  })
  it('is judged no otherwise for it', () => {
    const beside = { beside: { [HOLD]: ['W' as const, 'S' as const, 'R' as const] } }
    const states = (options: JudgeOptions) => judged(options).steps.map((s) => [s.key, s.state])
    expect(states(beside)).toEqual(states({}))
    expect(judged(beside).state).toBe(judged({}).state)
  })
  it('of which nobody else wants to see anything asks nobody else', () =>
    expect(at(HOLD, {})).toMatchObject({ beside: [], witness: null, review: null, watch: null }))
})
