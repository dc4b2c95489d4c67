import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Problem } from '../../../core/problem'
import { loadProcedure, writeProcedure } from '../../../core/procedure/load'
import { procedureSource, systemKeys } from '../../../demo/system-records'

describe('broken files', () => {
  // The end of the first stage of the shortest shipped ones: what breaks does not depend on length.
  const sources = systemKeys
    .map(procedureSource)
    .sort((a, b) => a.length - b.length)
    .slice(0, 3)
    .map((source) => {
      const { procedure } = loadProcedure(source)
      const [first] = procedure.stages
      return writeProcedure({ ...procedure, stages: [{ ...first!, steps: first!.steps.slice(-2) }] })
    })
  const piece = fc.constantFrom(
    '{',
    '}',
    '[',
    ']',
    ': ',
    '- ',
    '&a ',
    '*a ',
    '!!js/function ',
    '? ',
    '|',
    '>',
    '"',
    "'",
    '\t',
    '\n',
    '%',
    '#',
    '<<: ',
    'null',
    '1e999',
    '(',
    '((((((((',
    'reading("',
    'when: ',
    'formula: ',
    '\u0000',
    '💥',
  )
  /** One broken copy of a shipped procedure. */
  const wreck = fc
    .tuple(
      fc.nat(sources.length - 1),
      fc.array(
        fc.tuple(
          fc.double({ min: 0, max: 1, noNaN: true }),
          fc.nat(80),
          fc.oneof(piece, fc.string({ maxLength: 8 })),
        ),
        { minLength: 1, maxLength: 4 },
      ),
    )
    .map(([which, cuts]) => {
      let text = sources[which]!
      for (const [where, cut, put] of cuts) {
        const from = Math.floor(where * text.length)
        text = text.slice(0, from) + put + text.slice(from + cut)
      }
      return text
    })
  it.each(['valueOf', 'toString', 'constructor', 'hasOwnProperty', '__proto__'])(
    'a key that every object has, %s, is unknown like any other',
    (name) => {
      for (const text of [
        sources[0]!.replace('title:', `${name}:`),
        `${sources[0]}${name}: 1\n`,
        sources[0]!.replace('  - key: pipe.od', `  - ${name}: 1\n    key: pipe.od`),
      ])
        expect(() => loadProcedure(text)).toThrow(
          expect.objectContaining({
            code: 'bad-procedure',
            details: { line: expect.any(Number), column: expect.any(Number) },
          }),
        )
    },
  )
  it.each([
    ['['.repeat(100_000)],
    [`a: ${'{b: '.repeat(5000)}`],
    [`${'- '.repeat(3000)}x`],
    ['{"a":'.repeat(3000) + '1' + '}'.repeat(3000)],
  ])('nesting without end is refused (%#)', (text) =>
    expect(() => loadProcedure(text)).toThrow(expect.objectContaining({ code: 'bad-procedure' })),
  )
  it('10,000 of them do nothing but be refused, with line and column', { timeout: 900_000 }, () => {
    fc.assert(
      fc.property(wreck, (text) => {
        const start = performance.now()
        try {
          loadProcedure(text)
        } catch (error) {
          expect(error).toBeInstanceOf(Problem)
          expect((error as Problem).details).toMatchObject({
            line: expect.any(Number),
            column: expect.any(Number),
          })
        }
        expect(performance.now() - start).toBeLessThan(20_000)
      }),
      { numRuns: 10_000 },
    )
  })
})
