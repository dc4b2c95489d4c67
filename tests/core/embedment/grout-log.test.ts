import { describe, expect, it } from 'vitest'
import { groutLog, roomAround } from '../../../core/embedment/grout-log'
import { slotsOf } from '../../../core/judgement/slots'
import { GroutPump, pumpStories, type PumpStory } from '../../../devices/grout-pump'
import { reachOf } from '../checks/reach'
import { entry } from '../support'

const { compiled } = reachOf({ grout: { kind: 'grout', limit: '60 kPa', head: '1 m', relativeDensity: 2 } })
const facts = { 'pipe.od': 0.6, 'casing.bore': 0.9, 'site.length': 10 }
const log = (entries: ReturnType<typeof entry>[], known: Record<string, number> = facts) =>
  groutLog(compiled, known, slotsOf(compiled, known, entries), entries)!
const pumped = (minute: number, ...rows: [t: number, kPa: number, volume: number][]) =>
  entry(
    'grout',
    'grout',
    { rows: rows.map(([t, kPa, volume]) => ({ t, pressure: kPa * 1000, volume })) },
    minute,
  )

describe('the log of the grout', () => {
  it('is one, whatever entries it came in', () => {
    const { readings } = log([pumped(1, [0, 30, 0], [120, 40, 0.4]), pumped(2, [60, 35, 0.2])])
    expect(readings.map((r) => r.t)).toEqual([0, 60, 120])
  })
  it('says how near the pressure came at the invert, a metre over the gauge', () => {
    // 60 kPa at the gauge less 2 · 9.81 kPa
    expect(log([pumped(1, [0, 60, 0])]).reached).toBeCloseTo((60 - 19.6133) / 60, 4)
  })
  it('says what share of the room around the pipe is full', () => {
    const room = (Math.PI / 4) * (0.81 - 0.36) * 10
    expect(log([pumped(1, [0, 30, room / 2])])).toMatchObject({ room, full: 0.5 })
  })
  it.each([
    ['a casing that nobody measured', { 'pipe.od': 0.6, 'site.length': 10 }],
    ['a pipe as wide as its casing', { ...facts, 'pipe.od': 0.9 }],
  ])('%s: no share', (_what, known) =>
    expect(log([pumped(1, [0, 30, 1])], known)).toMatchObject({ room: null, full: null }),
  )
  it('says from where on it warns, of what the pipe bears', () => {
    const { limit, warn } = log([pumped(1, [0, 30, 0])])
    expect([limit, warn / limit]).toEqual([60e3, expect.closeTo(0.9, 9)])
  })
  it('the nearest it came stands, whatever was read before and after', () =>
    expect(log([pumped(1, [0, 30, 0], [60, 60, 0.1], [120, 40, 0.2])]).reached).toBeCloseTo(
      (60 - 19.6133) / 60,
      4,
    ))
  it('is nobody’s where the procedure asks for no grout', () => {
    const { compiled: other } = reachOf({ lifts: { kind: 'lifts', od: 'pipe.od' } })
    expect(groutLog(other, facts, slotsOf(other, facts, []), [])).toBeNull()
  })
  it.each([
    ['casing.bore', 0],
    ['pipe.od', -0.6],
    ['site.length', '10'],
    ['site.length', NaN],
  ])('there is no room where %s is %s', (key, value) =>
    expect(roomAround({ ...facts, [key]: value })).toBeNull(),
  )
  it('what is read of the log is its readings, and no remark at its step', () => {
    const note = entry('grout', 'remark', { text: 'Hose changed.' }, 1.5)
    expect(log([pumped(1, [0, 30, 0]), note]).readings).toHaveLength(1)
  })
  it('nothing pumped is not nothing reached', () =>
    expect(log([])).toMatchObject({ full: null, reached: null, readings: [] }))
})

describe('a made-up pump', () => {
  const annulus = { room: 7, base: 6e3, head: 15e3 }
  const run = (story: PumpStory) => {
    const pump = new GroutPump(annulus, story)
    const rows = []
    while (!pump.full) rows.push(pump.run(60))
    return rows
  }
  it.each(Object.keys(pumpStories) as PumpStory[])(
    '%s: never gives grout back, and stops when it is full',
    (story) => {
      const volumes = run(story).map((r) => r.volume)
      expect(volumes).toEqual([...volumes].sort((a, b) => a - b))
      expect(volumes.at(-1)).toBeCloseTo(7 * 1.03, 3)
    },
  )
  it('in haste presses harder at the end than with an eye on the gauge', () => {
    const end = (story: PumpStory) =>
      Math.max(
        ...run(story)
          .slice(-5)
          .map((r) => r.pressure),
      )
    expect(end('hasty')).toBeGreaterThan(end('careful') + 10e3)
  })
})
