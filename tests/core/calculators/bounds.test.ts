import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { answer } from '../../../core/calculators/define'
import { calculators, findCalculator } from '../../../core/calculators/registry'
import { Problem } from '../../../core/problem'
import cases from '../../reference/calculator-cases.json'

interface Case {
  key: string
  inputs: Record<string, unknown>
  error?: string
}
const good = (cases as Case[]).filter((c) => !c.error)
const field = (key: string, inputs: Record<string, unknown>): string | null => {
  try {
    answer(findCalculator(key), inputs)
    return null
  } catch (error) {
    if (error instanceof Problem) return error.field
    throw error
  }
}

describe('every input of every calculator refuses by its own key', () => {
  const first = new Map(good.map((c) => [c.key, c.inputs]))
  it.each([...first])('%s', (key, inputs) => {
    for (const name of Object.keys(inputs)) {
      expect(field(key, { ...inputs, [name]: null }), `${name} null`).toBe(name)
      expect(field(key, { ...inputs, [name]: '' }), `${name} empty`).toBe(name)
      expect(field(key, { ...inputs, [name]: { odd: 1 } }), `${name} an object`).toBe(name)
      if (typeof inputs[name] === 'number')
        for (const bad of [true, [1], Infinity, '5 ohm·s', '1/0'])
          expect(field(key, { ...inputs, [name]: bad }), `${name} ${String(bad)}`).toBe(name)
    }
    expect(field(key, { ...inputs, surplus: 1 })).toBe('surplus')
  })
  it('no calculator answers with a number that is not finite, nor crashes, whatever comes', () => {
    const value = fc.oneof(
      fc.double(),
      fc.string(),
      fc.boolean(),
      fc.constant(null),
      fc.array(fc.double()),
      fc.constantFrom('1 mm', '0', '1e308', '-5 bar', '12 %'),
    )
    fc.assert(
      fc.property(fc.constantFrom(...calculators), fc.infiniteStream(value), (calculator, stream) => {
        const inputs = Object.fromEntries(Object.keys(calculator.inputs).map((k) => [k, stream.next().value]))
        try {
          const flat = (v: unknown): unknown[] =>
            Array.isArray(v)
              ? v.flatMap(flat)
              : typeof v === 'object' && v !== null
                ? flat((v as { value: unknown }).value)
                : [v]
          for (const v of Object.values(answer(calculator, inputs).outputs).flatMap(flat))
            if (typeof v === 'number') expect(Number.isFinite(v)).toBe(true)
        } catch (error) {
          expect(error).toBeInstanceOf(Problem)
        }
      }),
      { numRuns: 400 },
    )
  })
})

describe('nothing where nothing is allowed', () => {
  it.each<[string, Record<string, unknown>]>([
    ['corrugation-cut', { wanted: 0, pitch: 0.1, firstValley: 0 }],
    ['scrape-length', { fittingWidth: 0 }],
    ['joint-deflection', { angle: 3, pipeLength: 0 }],
    ['pe-air-check', { volume: 0, drop: 1e5, insideDiameter: 0.2, wall: 0.02, modulus: 8e8, released: 0 }],
    ['air-test-time', { diameter: 0.3, length: 0 }],
  ])('%s takes a length or volume of zero', (key, inputs) => expect(field(key, inputs)).toBeNull())
  it.each<[string, Record<string, unknown>, string]>([
    ['gouge', { depth: 0.02, wall: 0.01 }, 'depth'],
    ['bolt-torque', { diameter: 0.02 }, 'preload'],
    ['bolt-torque', { diameter: 0.02, preload: 1, torque: 1 }, 'torque'],
    ['bolt-sequence', { count: 7, pattern: 'star', stages: [1] }, 'pattern'],
    ['deflection-predicted', { load: 1, pipeStiffness: 1, dr: 17, modulus: 1, soilModulus: 1 }, 'dr'],
    ['deflection-predicted', { load: 1, soilModulus: 1 }, 'pipeStiffness'],
    ['sling-force', { mass: 1, legs: 1, angle: 10 }, 'angle'],
    ['thrust', { pressure: 1, diameter: 1, kind: 'bend' }, 'angle'],
    ['thrust', { pressure: 1, diameter: 1, kind: 'tee' }, 'smaller'],
    ['electrofusion-times', { start: '2026-03-09T08:15:00', fusion: 1, cooling: 1 }, 'start'],
    ['guard-band', { value: 1, uncertainty: 0 }, 'min'],
    ['guard-band', { value: '1 mm', max: '2 bar', uncertainty: 0 }, 'max'],
    ['vacuum-time', { diameter: 0.5, depth: 3 }, 'diameter'],
    [
      'proctor-fit',
      { points: [0.1, 0.11, 0.12, 0.13].map((moisture, i) => ({ moisture, dryDensity: 1800 + i * i * 10 })) },
      'points',
    ],
    ['level-run', { sights: [{ backsight: 1 }, { backsight: 1 }], startLevel: 0 }, 'sights'],
    ['trapped-air', { volume: 1, from: 2, to: 1, added: 1 }, 'to'],
    ['cement-cure', { size: 0.05, temperature: 20, pressure: 3e6 }, 'pressure'],
  ])('%s %j is refused at %s', (key, inputs, at) => expect(field(key, inputs)).toBe(at))
})
