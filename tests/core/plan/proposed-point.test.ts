import { describe, expect, it } from 'vitest'
import { checkProposed, checkReview, type ProposedPoint } from '../../../core/plan/proposed-point'
import { refusal } from '../refusal'

const steps = new Set(['clean', 'looks'])
const proposed: ProposedPoint = {
  ...{ procedure: 'rc-sealant', step: 'clean', party: 'witness', point: 'W', rate: null, line: null },
  ...{ crew: null, from: '2026-03-09', until: null, good: null, reason: 'The client asks.' },
}
const refused = (more: Partial<ProposedPoint>) =>
  refusal(() => checkProposed({ ...proposed, ...more }, steps))

describe('a proposed change of the plan', () => {
  it.each<[string, Partial<ProposedPoint>]>([
    ['a witness from a day on', {}],
    ['for one day', { until: '2026-03-09' }],
    ['taking a point away', { point: null }],
    ['surveillance of one in ten', { point: 'S', rate: 10 }],
    ['surveillance on an occasion', { point: 'S', rate: 'after-rejection' }],
    ['a hold at everything for a new crew', { step: '*', point: 'H', crew: 'north', good: 5 }],
    ['for good', { step: '*', point: 'H', crew: 'north' }],
  ])('%s', (_what, more) => expect(refused(more)).toBeNull())
  it.each<[string, Partial<ProposedPoint>, string, string]>([
    ['no day', { from: 'soon' }, 'bad-input', 'from'],
    ['an end that is no day', { until: 'never' }, 'bad-input', 'until'],
    ['an end before its beginning', { until: '2026-03-08' }, 'bad-input', 'until'],
    ['surveillance of nobody knows how many', { point: 'S' }, 'bad-input', 'rate'],
    ['a hold one in ten', { point: 'H', rate: 10 }, 'bad-input', 'rate'],
    ['no point one in ten', { point: null, rate: 10 }, 'bad-input', 'rate'],
    ['so many in a row at one step', { point: 'H', crew: 'north', good: 5 }, 'bad-input', 'good'],
    ['everything witnessed', { step: '*', crew: 'north' }, 'bad-input', 'step'],
    ['everything held, of every crew', { step: '*', point: 'H' }, 'bad-input', 'step'],
    ['a step that there is not', { step: 'polished' }, 'not-found', 'step'],
  ])('%s is refused', (_what, more, code, field) => expect(refused(more)).toEqual([code, field]))
})

describe('its review', () => {
  const rule = { by: 'petra', review: null }
  const review = (more: object, person = 'juno', accepted = true, reason = '') =>
    refusal(() => checkReview({ ...rule, ...more }, person, { accepted, reason }))
  it('is somebody else’s', () =>
    expect([review({}), review({}, 'petra')]).toEqual([null, ['own-work', 'rule']]))
  it('is done once', () =>
    expect(review({ review: { by: 'juno', at: 1, accepted: true, reason: '' } })).toEqual([
      'reviewed',
      'rule',
    ]))
  it('says why where it turns it down', () => {
    expect(review({}, 'juno', false)).toEqual(['missing', 'reason'])
    expect(review({}, 'juno', false, 'Not here.')).toBeNull()
  })
})
