import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { evaluateTest, readRequest } from '../../../core/pressure/evaluate'

/**
 * What must not matter to any method does not: when the log began, a reading said twice, one that is out of
 * all reason, a row between two others. And a leak never makes a test better.
 */
type Row = [
  t: number,
  pressure: number | null,
  pipe: number | null,
  air: number | null,
  makeup: number | null,
]
interface Request {
  method: string
  rows: Row[]
  events?: { t: number; kind: string }[]
}
const logs = (
  JSON.parse(readFileSync(new URL('../../reference/test-cases.json', import.meta.url), 'utf8')) as {
    id: string
    request: Request
    expect: { error?: string }
  }[]
).filter((c) => !c.expect.error)
const evaluate = (request: Request) => evaluateTest(readRequest(request))
type Evaluation = ReturnType<typeof evaluate>
const numbersOf = (e: Evaluation) =>
  Object.fromEntries(Object.entries(e.numbers).map(([key, n]) => [key, n.value]))
const verdictsOf = (e: Evaluation) => [
  e.verdict,
  Object.entries(e.numbers).map(([key, n]) => [key, n.verdict]),
]
/** The same but for what is rounded on the way. */
function expectSame(found: Evaluation, was: Evaluation, relative = 1e-6) {
  expect(verdictsOf(found)).toEqual(verdictsOf(was))
  const [a, b] = [numbersOf(found), numbersOf(was)]
  for (const [key, value] of Object.entries(b))
    if (value === null || a[key] === null) expect([key, a[key]]).toEqual([key, value])
    else expect(Math.abs(a[key]! - value), key).toBeLessThanOrEqual(1e-6 + relative * Math.abs(value))
}
const between = (low: number, high: number) => fc.integer({ min: low, max: high })
const RUNS = { numRuns: 25 }

describe.each(logs)('$id', ({ request }) => {
  const was = evaluate(request)
  const last = request.rows.length - 1

  it('is the same whenever its log began', () =>
    fc.assert(
      fc.property(between(-100_000, 100_000), (by) => {
        const rows = request.rows.map(([t, ...rest]) => [t + by, ...rest]) as Row[]
        const events = request.events?.map((e) => ({ ...e, t: e.t + by }))
        expectSame(evaluate({ ...request, rows, ...(events && { events }) }), was)
      }),
      RUNS,
    ))
  it('is the same with a row said twice, and says so', () =>
    fc.assert(
      fc.property(between(0, last), (at) => {
        const rows = [...request.rows.slice(0, at + 1), ...request.rows.slice(at)]
        const found = evaluate({ ...request, rows })
        expectSame(found, was)
        expect(found.notes.map((n) => n.kind)).toContain('duplicate')
      }),
      RUNS,
    ))
  it('is the same with a row whose clock ran back', () =>
    fc.assert(
      fc.property(between(2, last), between(0, 2), (at, way) => {
        const [t, ...rest] = request.rows[at]!
        const back = t - (t - request.rows[0]![0]) * 0.37 - way * 1e-3
        const rows = [...request.rows]
        rows.splice(at + 1, 0, [back, ...rest])
        expectSame(evaluate({ ...request, rows }), was)
      }),
      RUNS,
    ))
  it('is the same with empty readings among the others', () =>
    fc.assert(
      fc.property(between(1, last - 1), (at) => {
        const rows = [...request.rows]
        const [a, b] = [rows[at]!, rows[at + 1]!]
        rows.splice(at + 1, 0, [(a[0] + b[0]) / 2, null, null, null, null])
        expectSame(evaluate({ ...request, rows }), was)
      }),
      RUNS,
    ))
  it('keeps its verdict with a row between two others', () =>
    fc.assert(
      fc.property(between(0, last - 1), fc.double({ min: 0.2, max: 0.8, noNaN: true }), (at, share) => {
        const [a, b] = [request.rows[at]!, request.rows[at + 1]!]
        const half = a.map((v, k) => {
          const next = b[k] ?? null
          return v === null || next === null ? null : v + (next - v) * share
        }) as Row
        const rows = [...request.rows.slice(0, at + 1), half, ...request.rows.slice(at + 1)]
        expect(evaluate({ ...request, rows }).verdict).toBe(was.verdict)
      }),
      RUNS,
    ))
})

/** A sooner fall of pressure, or more water. */
describe('a leak', () => {
  const worse: Record<string, number> = { accept: 0, incomplete: 0, 'too-close': 1, reject: 2 }
  const leaking = ({ rows, ...request }: Request, perHour: number, litres: number): Request => {
    const highest = Math.max(...rows.map((r) => Math.abs(r[1] ?? 0)))
    const vacuum = rows.every((r) => (r[1] ?? 0) <= 0)
    const from = rows.find((r) => Math.abs(r[1] ?? 0) >= 0.98 * highest)![0]
    return {
      ...request,
      rows: rows.map(([t, pressure, pipe, air, makeup]) => {
        const hours = Math.max(0, t - from) / 3600
        const lost = highest * perHour * hours * (vacuum ? -1 : 1)
        return [
          t,
          pressure === null ? null : pressure - lost,
          pipe,
          air,
          makeup === null ? null : makeup + (litres / 1000) * hours,
        ]
      }),
    }
  }
  const falls = logs.filter(({ request }) =>
    ['hydro-drop', 'low-pressure-air', 'vacuum-manhole', 'casing-air', 'joint-air'].includes(request.method),
  )
  it.each(falls)('$id: makes no rejected test better', ({ request }) =>
    fc.assert(
      fc.property(fc.double({ min: 0, max: 0.3, noNaN: true }), (perHour) => {
        const was = evaluate(request)
        const found = evaluate(leaking(request, perHour, 0))
        if (was.verdict === 'reject') expect(found.verdict).toBe('reject')
        else expect(worse[found.verdict]).toBeGreaterThanOrEqual(worse[was.verdict]!)
      }),
      RUNS,
    ),
  )
  const meters = logs.filter(({ request }) => ['hydro-makeup', 'exfiltration'].includes(request.method))
  it.each(meters)('$id: that is made up makes no rejected test better', ({ request }) =>
    fc.assert(
      fc.property(fc.double({ min: 0, max: 20, noNaN: true }), (litres) => {
        const was = evaluate(request)
        const found = evaluate(leaking(request, 0, litres))
        expect(worse[found.verdict]).toBeGreaterThanOrEqual(worse[was.verdict]!)
      }),
      RUNS,
    ),
  )
})

describe('the length of a section', () => {
  const makeup = logs.find((c) => c.id === 'hydro-makeup-1')!.request as Request & {
    section: { length: number }
  }
  it('scales what is allowed and what is added together: the verdict stays', () =>
    fc.assert(
      fc.property(fc.double({ min: 0.3, max: 4, noNaN: true }), (by) => {
        const section = { ...makeup.section, length: makeup.section.length * by }
        const rows = makeup.rows.map(([t, p, a, b, m]) => [t, p, a, b, m === null ? null : m * by]) as Row[]
        const was = evaluate(makeup)
        const found = evaluate({ ...makeup, section, rows } as Request)
        expect(found.verdict).toBe(was.verdict)
        for (const key of ['added', 'restored', 'total', 'allowed'])
          expect(found.numbers[key]!.value).toBeCloseTo(was.numbers[key]!.value! * by, 6)
        expect(found.numbers.meanPressure!.value).toBeCloseTo(was.numbers.meanPressure!.value!, 3)
      }),
      RUNS,
    ))
})
