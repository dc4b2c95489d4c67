import { describe, expect, it } from 'vitest'
import type { Fault, Finding } from '../../../core/checks/verdict'
import { draftOf } from '../../../core/judgement/draft'
import { small } from './support'

/** A nonconformance names what was asked and what was found, and the entry that says so. */
const stepOf = (key: string) => small.steps[small.stepIndex.get(key)!]!
const finding = (more: Partial<Finding>): Finding => ({
  ...{ title: 'Gouge', of: 'each', dimension: 'length', unit: 'mm', value: 0.0012, min: null, max: 0.001 },
  ...{ uncertainty: 0.0001, reading: null, margin: -0.0002, verdict: 'reject', ...more },
})
const fault = (more: Partial<Fault>): Fault => ({
  ...{ entry: 'e2', code: 'thick', sentence: 'Lift 2 is 310 mm thick.', verdict: 'reject', ...more },
})
const draft = (key: string, findings: Finding[], faults: Fault[] = [], entry: string | null = 'e1') =>
  draftOf(stepOf(key), { findings, faults, entry }, 'The sentence.')

describe('the criterion of a draft', () => {
  it.each<[string, Partial<Finding>, string]>([
    ['an upper limit', {}, 'Gouge at most 1 mm'],
    ['a lower limit', { min: 0.002, max: null }, 'Gouge at least 2 mm'],
    ['two limits', { min: 0.0005, max: 0.001 }, 'Gouge from 0.5 mm to 1 mm'],
    ['one figure', { min: 0.001, max: 0.001 }, 'Gouge is 1 mm'],
  ])('of %s', (_what, more, criterion) =>
    expect(draft('gouge', [finding(more)])).toEqual({
      ...{ step: 'gouge', kind: 'rejected', criterion, reading: '1.2 mm', entry: 'e1' },
    }),
  )
  it('is of the finding that is rejected, not of one that is good or too close to call', () =>
    expect(
      draft('gouge', [
        finding({ title: 'First', verdict: 'accept' }),
        finding({ title: 'Second', verdict: 'too-close' }),
        finding({ title: 'Third' }),
      ]).criterion,
    ).toBe('Third at most 1 mm'))
  it('is the question where nothing was measured, else what the step is called', () => {
    expect(draft('peeled', [])).toMatchObject({ criterion: 'Peeled?', reading: 'The sentence.' })
    expect(draft('off', [], [], null)).toMatchObject({ criterion: 'Clamps off', entry: '' })
  })
})

describe('the fault of one entry among many', () => {
  it('goes before what all of them together say', () =>
    expect(draft('peeled', [finding({})], [fault({})])).toMatchObject({
      ...{ step: 'peeled', kind: 'rejected', entry: 'e2', reading: 'Lift 2 is 310 mm thick.' },
      criterion: expect.stringMatching(/./),
    }))
  it('that is too close to call is none', () =>
    expect(draft('peeled', [], [fault({ verdict: 'too-close' })])).toMatchObject({
      ...{ entry: 'e1', reading: 'The sentence.' },
    }))
})
