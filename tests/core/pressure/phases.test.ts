import { describe, expect, it } from 'vitest'
import { cases, evaluate, type Request } from './reference'

/** Of every method: what its phases are in time, and how long a test that still runs has to go. */

/** Their last phase ends when the pressure has fallen, which may be before or after the time it must stand. */
const untilItFell = ['low-pressure-air', 'vacuum-manhole', 'joint-air']
const endOf = (request: Request) => request.rows.at(-1)![0]!

describe.each(cases)('%s', (_id, request) => {
  it('its phases follow one another, within the log', () => {
    const { phases } = evaluate(request)
    const first = request.rows[0]![0]!
    for (const [i, p] of phases.entries()) {
      expect(p.to).toBeGreaterThanOrEqual(p.from)
      expect(p.from).toBeGreaterThanOrEqual(i === 0 ? first : phases[i - 1]!.to)
      expect(p.to).toBeLessThanOrEqual(endOf(request))
    }
  })
  it('is over when nothing is needed any more', () => {
    const { verdict, needed } = evaluate(request)
    expect(needed === null).toBe(verdict !== 'incomplete')
  })
})

describe.each(cases.filter(([, r]) => !untilItFell.includes(r.method)))('%s', (_id, request) => {
  it('cut off within its last phase, it needs what is left of it', () => {
    const whole = evaluate(request)
    if (whole.verdict === 'incomplete') return
    const last = whole.phases.at(-1)!
    for (const share of [0.35, 0.7]) {
      const until = last.from + share * (last.to - last.from)
      const rows = request.rows.filter(([t]) => t! <= until)
      const cut = evaluate({ ...request, rows, events: request.events?.filter((e) => e.t <= until) })
      const here = rows.at(-1)![0]!
      // A log may begin its last phase with the row that ends it: then nothing of it was seen.
      if (here <= last.from) continue
      // What is too bad already is rejected at once; nothing is accepted before its time.
      if (whole.verdict === 'reject' && cut.verdict === 'reject') continue
      expect([share, cut.verdict]).toEqual([share, 'incomplete'])
      expect(cut.phases.at(-1)!.to).toBe(here)
      expect(cut.needed!).toBeCloseTo(last.to - here, 6)
    }
  })
})
