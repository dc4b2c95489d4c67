import { describe, expect, it } from 'vitest'
import { factsAsked, factsAtOpening, factsOfPieces, sourceOf } from '../../../core/procedure/opening'
import type { ProcedureFact } from '../../../core/procedure/types'
import { refusal } from '../refusal'

/** What a joint is opened with: of its pieces, of its line, and typed. */
const fact = (key: string, more: Partial<ProcedureFact> = {}): ProcedureFact => ({
  ...{ key, title: key === 'pipe.od' ? 'Outside diameter' : key, dimension: 'length', unit: 'mm' },
  from: key.split('.')[0] as ProcedureFact['from'],
  ...more,
})
const facts = [
  fact('pipe.od'),
  fact('fitting.width'),
  fact('site.cover', { optional: true }),
  fact('line.pressure', { from: 'project' }),
]
const procedure = { facts }
const keys = (list: readonly ProcedureFact[]) => list.map((f) => f.key)

it('a fitting gives what is of the fitting, the pipes what is of the pipe', () =>
  expect((['upstream', 'downstream', 'fitting'] as const).map(sourceOf)).toEqual(['pipe', 'pipe', 'fitting']))

describe('what is asked at the opening', () => {
  it('is what no piece and no line gives', () => {
    expect(keys(factsAsked(procedure, ['upstream', 'fitting'], {}))).toEqual(['site.cover', 'line.pressure'])
    expect(keys(factsAsked(procedure, ['upstream'], { 'line.pressure': 1e6 }))).toEqual([
      ...['fitting.width', 'site.cover'],
    ])
    expect(keys(factsAsked(procedure, [], {}))).toEqual(keys(facts))
  })
})

describe('the pieces', () => {
  const pipe = { 'pipe.od': 0.18 }
  it('give their facts', () =>
    expect(
      factsOfPieces(procedure, { upstream: pipe, downstream: pipe, fitting: { 'fitting.width': 0.19 } }),
    ).toEqual({ 'pipe.od': 0.18, 'fitting.width': 0.19 }))
  it('may be one pipe, or none', () => {
    expect(factsOfPieces(procedure, { upstream: pipe })).toEqual(pipe)
    expect(factsOfPieces(procedure, {})).toEqual({})
  })
  const chosen = (more: object) => refusal(() => factsOfPieces(procedure, { upstream: pipe, ...more }))
  it('two pipes that differ in what the procedure takes from them are refused', () => {
    expect(chosen({ downstream: { 'pipe.od': 0.2 } })).toEqual(['mismatch', 'downstream'])
    expect(chosen({ downstream: { 'pipe.od': 0.18, 'pipe.colour': 'black' } })).toBeNull()
    expect(chosen({ downstream: { 'pipe.colour': 'blue' } })).toBeNull()
  })
  it('so is a fitting of another bore; one without a bore is not', () => {
    expect(chosen({ fitting: { 'fitting.bore': 0.2 } })).toEqual(['mismatch', 'fitting'])
    expect(chosen({ fitting: { 'fitting.bore': 0.18 } })).toBeNull()
    expect(chosen({ fitting: {} })).toBeNull()
    expect(refusal(() => factsOfPieces(procedure, { fitting: { 'fitting.bore': 0.2 } }))).toBeNull()
  })
})

describe('the facts of a joint', () => {
  const asked = facts.slice(2)
  const known = { 'pipe.od': 0.18, 'fitting.width': 0.19 }
  const given = { 'site.cover': '900 mm', 'line.pressure': '2 m' }
  const opened = (typed: Record<string, unknown>, of = known) => factsAtOpening(procedure, asked, of, typed)
  it('are of its pieces and typed, in SI', () =>
    expect(opened(given)).toEqual({ ...known, 'site.cover': 0.9, 'line.pressure': 2 }))
  it('what may stay out stays out', () => {
    for (const empty of [undefined, null, ''])
      expect(opened({ ...given, 'site.cover': empty })).not.toHaveProperty('site.cover')
  })
  it.each<[string, Record<string, unknown>, string, string]>([
    ['what is needed is missing', { 'site.cover': '900 mm' }, 'missing', 'line.pressure'],
    ['an empty word for it', { ...given, 'line.pressure': '' }, 'missing', 'line.pressure'],
    ['what is not asked', { ...given, 'pipe.od': '200 mm' }, 'unknown-fact', 'facts.pipe.od'],
  ])('%s is refused', (_what, typed, code, field) =>
    expect(refusal(() => opened(typed))).toEqual([code, field]),
  )
  it('so is a piece that does not know what it should', () =>
    expect(refusal(() => opened(given, { 'pipe.od': 0.18 } as typeof known))).toEqual([
      ...['missing', 'fitting.width'],
    ]))
})
