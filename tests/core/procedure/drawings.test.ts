import { describe, expect, it } from 'vitest'
import { compileProcedure } from '../../../core/procedure/compile'
import type { Procedure, ProcedureDrawing } from '../../../core/procedure/types'
import { loadSystem } from '../../../demo/system-records'

/** What a procedure may draw of a joint, from which figures, and where a step points in it. */
const bolted = loadSystem('bolted-coupling').compiled.procedure
const nipple = loadSystem('abs-preinsulated-nipple').compiled.procedure
const compiled = (change: (p: Procedure) => void = () => {}, of = bolted) => {
  const copy = structuredClone(of)
  change(copy)
  return compileProcedure(copy)
}
const drawing = (p: Procedure, key: string): ProcedureDrawing => p.drawings.find((d) => d.key === key)!
const step = (p: Procedure, key: string) => p.stages.flatMap((s) => s.steps).find((s) => s.key === key)!
const refusal = (change: (p: Procedure) => void, of = bolted) => {
  try {
    compiled(change, of)
  } catch (error) {
    const { message, path } = error as Error & { path?: string }
    return [message, path]
  }
  return null
}

describe('a drawing', () => {
  it('has its values as formulas, and knows which a person enters at a step', () => {
    const { section, gap } = Object.fromEntries(compiled().drawings)
    expect(Object.keys(section!.values)).toEqual(['od', 'width', 'mark', 'gap'])
    expect(section).toMatchObject({ end: null, readings: 'sleeve-set' })
    expect(section!.entered).toEqual({ od: null, width: null, mark: 'half-mark', gap: 'gap' })
    expect(gap!.entered).toEqual({ diameter: null })
  })
  it('of one end is made at each', () => {
    const made = [...compiled(() => {}, nipple).drawings].filter(([, d]) => d.drawing.key === 'socket')
    expect(made.map(([, d]) => d.end)).toEqual(['upstream', 'downstream'])
    for (const [key, { end }] of made) expect(key).toContain(end)
  })
  it('without readings has none', () => {
    const { drawings } = compiled((p) => delete (drawing(p, 'section') as Partial<ProcedureDrawing>).readings)
    expect(drawings.get('section')!.readings).toBeNull()
  })
  it.each<[string, (p: Procedure) => void, RegExp, string]>([
    [
      'a value that it needs and has not',
      (p) => delete drawing(p, 'bolts').values.pattern,
      /^A bolt-circle drawing needs "pattern"\.$/,
      'drawings[2].values',
    ],
    [
      'a value that it does not know',
      (p) => (drawing(p, 'bolts').values.colour = 'pipe.od'),
      /^A bolt-circle drawing takes bolts, pattern, torque, not "colour"\.$/,
      'drawings[2].values.colour',
    ],
    [
      'a value of another dimension',
      (p) => (drawing(p, 'section').values.od = '3 s'),
      /./,
      'drawings[0].values.od',
    ],
    [
      'readings of a step that there is not',
      (p) => (drawing(p, 'section').readings = 'castle'),
      /./,
      'drawings[0].readings',
    ],
    [
      'readings of a step where nothing is measured',
      (p) => (drawing(p, 'section').readings = 'right-parts'),
      /^There is no measured step "right-parts"\.$/,
      'drawings[0].readings',
    ],
    ['a key that is taken', (p) => (drawing(p, 'gap').key = 'section'), /section/, 'drawings[1].key'],
    [
      'ends where no stage is made at each',
      (p) => (drawing(p, 'section').each = 'end'),
      /^No stage is made at each end\.$/,
      'drawings[0].each',
    ],
  ])('with %s is refused there', (_what, change, message, path) => {
    const found = refusal(change)!
    expect(found[0]).toMatch(message)
    expect(found[1]).toBe(path)
  })
})

describe('a step that points at a drawing', () => {
  const at = (key: string, text: string) =>
    refusal((p) => {
      step(p, key).drawing = text
    })
  it('may name it, or a part of it', () => {
    for (const text of ['section', 'section#mark', 'bolts#order']) expect(at('half-mark', text)).toBeNull()
  })
  it('must name one that there is, and a part that it has', () => {
    expect(at('half-mark', 'castle')![0]).toBe('There is no drawing "castle".')
    expect(at('half-mark', 'bolts#tower')![0]).toBe('A bolt-circle drawing has the parts order, not "tower".')
    expect(at('half-mark', 'castle')![1]).toMatch(/^stages\[\d+\]\.steps\[\d+\]\.drawing$/)
  })
})
