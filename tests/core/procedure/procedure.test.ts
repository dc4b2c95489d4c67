import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Problem } from '../../../core/problem'
import { loadProcedure, writeProcedure } from '../../../core/procedure/load'
import { electrofusion, electrofusionSource, facts180 } from '../support'

const refusal = (source: string): Problem => {
  try {
    loadProcedure(source)
  } catch (error) {
    if (error instanceof Problem) return error
    throw error
  }
  return expect.unreachable() as never
}
const changed = (from: string, to: string) => {
  expect(electrofusionSource).toContain(from)
  return electrofusionSource.replace(from, to)
}

describe('a procedure document', () => {
  it('is read, and written back unchanged in meaning', () => {
    expect(loadProcedure(writeProcedure(electrofusion.procedure)).procedure).toEqual(electrofusion.procedure)
    expect(loadProcedure(JSON.stringify(electrofusion.procedure)).procedure).toEqual(electrofusion.procedure)
  })
  it.each([
    [
      'adding a length to a pressure',
      'max: 10 % * pipe.wall',
      'max: pipe.wall + line.designPressure',
      /adding .* to a (length|pressure)/,
    ],
    [
      'a limit of the wrong dimension',
      'max: 10 % * pipe.wall',
      'max: line.designPressure',
      /must be a length, but the formula gives a pressure/,
    ],
    [
      'an unknown fact',
      'max: 10 % * pipe.wall',
      'max: 10 % * pipe.thickness',
      /"pipe.thickness" is not a fact/,
    ],
    ['a call that is not allowed', 'max: 10 % * pipe.wall', 'max: eval("1")', /may not be called/],
    ['an assignment', 'max: 10 % * pipe.wall', 'max: "x = 3 mm"', /may not use assignment/],
    ['an import', 'max: 10 % * pipe.wall', 'max: "import(1)"', /may not be called/],
    ['a broken formula', 'max: 10 % * pipe.wall', 'max: "pipe.wall * (2"', /cannot be read/],
    [
      'a circle of steps',
      'after: [ peeled ]\n        onFailure: { action: rework, words: Mark again',
      'after: [ stab-check ]\n        onFailure: { action: rework, words: Mark again',
      /wait for each other/,
    ],
    [
      'a step that does not exist',
      'after: [ controller-time ]',
      'after: [ controller-tim ]',
      /There is no step "controller-tim"/,
    ],
    ['a list where words are due', 'title: Cut square', 'title: [1]', /title must be a `string` type/],
    ['an unknown key', 'title: Cut square', 'title: Cut square\n        wy: Because', /unknown keys: wy/],
    ['a misspelled limit', 'max: 10 % * pipe.wall', 'mn: 1 mm, max: 10 % * pipe.wall', /unknown keys: mn/],
    [
      'a calculator that does not exist',
      'key: ovality, readings',
      'key: ovalness, readings',
      /There is no calculator/,
    ],
  ])('%s is refused with line, column and a sentence', (_what, from, to, sentence) => {
    const problem = refusal(changed(from, to))
    expect(problem.code).toBe('bad-procedure')
    expect(problem.message).toMatch(sentence)
    expect(problem.message).toMatch(/^Line \d+, column \d+: /)
    expect(Number(problem.details!.line)).toBeGreaterThan(1)
  })
  it('names the very line', () => {
    const source = changed('max: 10 % * pipe.wall', 'max: eval("1")')
    const line = source.split('\n').findIndex((l) => l.includes('eval(')) + 1
    expect(refusal(source).details!.line).toBe(line)
  })
  it('broken files never do anything but refuse', () => {
    fc.assert(
      fc.property(
        fc.nat(electrofusionSource.length - 1),
        fc.nat(60),
        fc.string({ maxLength: 12 }),
        (from, cut, put) => {
          const source = electrofusionSource.slice(0, from) + put + electrofusionSource.slice(from + cut)
          try {
            loadProcedure(source)
          } catch (error) {
            expect(error).toBeInstanceOf(Problem)
          }
        },
      ),
      { numRuns: 150 },
    )
  })
  it('a bomb of aliases is refused', () => {
    const bomb = [
      'a: &a [x,x,x,x,x,x,x,x,x]',
      ...'bcdefghi'.split('').map((c, i) => `${c}: &${c} [${Array(9).fill(`*${'abcdefgh'[i]}`).join(',')}]`),
    ].join('\n')
    expect(refusal(bomb).code).toBe('bad-procedure')
  })
  it('percent, conditions and calculators evaluate in SI', () => {
    const slots = electrofusion.slots(facts180)
    const gouge = electrofusion.steps[electrofusion.stepIndex.get('gouge')!]!
    expect(gouge.limits[0]!.max!.evaluate(slots)).toBeCloseTo(0.00164, 12)
  })
})
