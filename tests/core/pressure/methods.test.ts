import { describe, expect, it } from 'vitest'
import type { TestResult } from '../../../core/pressure/evaluate'
import {
  fitsMaterial,
  findTestMethod,
  sectionMethods,
  testMethods,
} from '../../../core/pressure/methods/registry'
import { describeTest } from '../../../core/pressure/report'
import { cases, evaluate, type Cells } from './reference'

const judged = ({ verdict, numbers }: TestResult) => ({
  verdict,
  numbers: Object.fromEntries(
    Object.entries(numbers).map(([key, n]) => [
      key,
      [n.value === null ? null : n.value.toPrecision(6), n.verdict],
    ]),
  ),
})

describe.each([...testMethods])('%s', (key, method) => {
  it('says for a form what every parameter is, and why', () =>
    expect(Object.keys(method.words).sort()).toEqual(Object.keys(method.parameters).sort()))
  it('names every number and phase that it gives', () => {
    const mine = cases.filter(([, r]) => r.method === key).map(([, r]) => evaluate(r))
    expect(mine.length).toBeGreaterThan(0)
    for (const result of mine) {
      for (const number of Object.keys(result.numbers)) expect(method.numbers).toHaveProperty(number)
      for (const phase of result.phases) expect(method.phases).toHaveProperty(phase.key)
      expect(describeTest(result).numbers.every((n) => n.title !== '' && n.text !== '')).toBe(true)
    }
  })
  it('says what can hurt', () => expect(method.cautions.length).toBeGreaterThan(0))
})

describe.each(cases)('%s', (_id, request) => {
  const whole = judged(evaluate(request))
  it('the moment it began says nothing', () => {
    const later = (t: number) => t + 5000
    const moved = {
      ...request,
      rows: request.rows.map(([t, ...rest]) => [later(t!), ...rest]),
      events: request.events?.map((e) => ({ ...e, t: later(e.t) })),
    }
    expect(judged(evaluate(moved))).toEqual(whole)
  })
  it('a row that comes twice says nothing, and is named', () => {
    const at = Math.floor(request.rows.length / 2)
    const twice = {
      ...request,
      rows: [...request.rows.slice(0, at + 1), request.rows[at]!, ...request.rows.slice(at + 1)],
    }
    const found = evaluate(twice)
    expect(judged(found)).toEqual(whole)
    expect(found.notes).toContainEqual(expect.objectContaining({ kind: 'duplicate', count: 1 }))
  })
  it('what comes after its end says nothing', () => {
    const end = request.rows.at(-1)![0]!
    const after = Array.from({ length: 5 }, (_v, i): Cells => [end + 1 + i, 0, null, null, 99])
    const cut = {
      ...request,
      rows: [...request.rows, ...after],
      events: [...(request.events ?? []), { t: end, kind: 'end' }],
    }
    expect(judged(evaluate(cut))).toEqual(whole)
  })
})

describe('cut short', () => {
  const accepted = cases.filter(([, r]) => evaluate(r).verdict === 'accept')
  it.each(accepted)('%s is not accepted before its time', (_id, request) => {
    const last = evaluate(request).phases.at(-1)!
    const until = last.from + 0.3 * (last.to - last.from)
    const rows = request.rows.filter(([t]) => t! <= until)
    expect(evaluate({ ...request, rows }).verdict).not.toBe('accept')
  })
})

describe('a further leak', () => {
  const falling = ['hydro-drop', 'low-pressure-air', 'casing-air', 'pe-expansion', 'hose-proof']
  it.each(cases.filter(([, r]) => falling.includes(r.method) && evaluate(r).verdict === 'reject'))(
    'never turns a rejection of %s round',
    (_id, request) => {
      const leaking = (paPerSecond: number) => ({
        ...request,
        rows: request.rows.map(([t, p, ...rest]): Cells => [
          t!,
          p === null
            ? null
            : p! - paPerSecond * Math.max(0, t! - (request.rows[1]![0]! - request.rows[0]![0]!)),
          ...rest,
        ]),
      })
      for (const leak of [0.1, 1, 5]) expect(evaluate(leaking(leak)).verdict).not.toBe('accept')
    },
  )
})

describe('a method is for its material', () => {
  it.each([
    ['pe-expansion', 'polyethylene', true],
    ['pe-expansion', 'ductile iron', false],
    ['hydro-drop', 'carbon steel', true],
    ['hydro-drop', 'polyethylene', false],
    ['hydro-makeup', 'ductile iron', true],
    ['vacuum-manhole', 'concrete', true],
  ])('%s for %s: %s', (key, material, fits) => expect(fitsMaterial(findTestMethod(key), material)).toBe(fits))
})

it('a test of a casing, a hose, a manhole or one joint is none of the section that it lies in', () => {
  const parts = [...testMethods.keys()].filter((key) => !sectionMethods.includes(key))
  expect(parts.sort()).toEqual(['casing-air', 'hose-proof', 'joint-air', 'vacuum-manhole'])
})
