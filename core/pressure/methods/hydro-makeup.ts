import { hydroAllowance } from '../../calculators/hydro'
import { positive, withDefault } from '../../calculators/input'
import { Problem } from '../../problem'
import { between, highestOf, lowestOf, meanOf, valueAt } from '../curve'
import { holdEnd, reachedAt, unpaused } from '../events'
import { stiffness } from '../section'
import { correctHold } from '../temperature'
import { defineTestMethod, judged, notBegun, said, type Outcome } from './define'

/** Gasketed pressure pipe: what must be added to keep the pressure, against what its seals may let by. */
export const hydroMakeup = defineTestMethod({
  key: 'hydro-makeup',
  title: 'Makeup water',
  materials: ['iron', 'gasket', 'PVC', 'concrete', 'fibreglass', 'FRP'],
  parameters: {
    testPressure: positive('pressure', 'kPa'),
    duration: withDefault(positive('time', 'h'), 7200),
    band: withDefault(positive('pressure', 'kPa'), 35e3),
  },
  words: {
    testPressure: { title: 'Test pressure at the gauge', why: 'Of the approved plan.' },
    duration: { title: 'Duration', why: 'Two hours show what a pump stroke hides.' },
    band: { title: 'Band', why: 'The pump keeps the pressure so near.' },
  },
  section: ['length', 'insideDiameter', 'wall', 'modulus', 'nominal'],
  phases: { hold: 'Hold' },
  numbers: {
    lowest: { title: 'Lowest pressure', formula: 'test pressure − band', bound: 'at least' },
    highest: { title: 'Highest pressure', formula: 'test pressure + band', bound: 'at most' },
    meanPressure: { title: 'Mean pressure', formula: 'over time' },
    added: { title: 'Water added', formula: 'meter at the end − at the begin' },
    restored: { title: 'Water still missing', formula: 'V·(1/K + c·D/(e·E)) · (begin − end)' },
    total: { title: 'Water in all', formula: 'added + restored', bound: 'at most' },
    allowed: { title: 'Water allowed', formula: 'S·D·√P/794 797 · hours' },
  },
  why: 'Gaskets seat and let a little by: what counts is water, not pressure.',
  cautions: ['Stored energy: nobody over or in front of a closure. Vent before loosening anything.'],
  evaluate(run): Outcome {
    const { parameters: p, gauge, section, events, pauses, last, judge } = run
    const meter = run.curve('makeup')
    if (meter.length === 0)
      throw new Problem('missing', 'There is no meter: this test is judged by the water added.', 'makeup')
    const pressure = run.curve('pressure')
    const begin = reachedAt(events, pressure, p.testPressure, gauge.uncertainty)
    if (begin === null) return notBegun('The test pressure was never reached.')
    const end = holdEnd(begin, p.duration, pauses)
    const to = Math.min(end, last)
    const hold = unpaused(between(pressure, begin, to), pauses)
    const [lowest, highest, mean] = [lowestOf(hold), highestOf(hold), meanOf(hold)]
    const [low, high] = [p.testPressure - p.band, p.testPressure + p.band]
    const takes = stiffness(section)
    const meterAt = (t: number) => valueAt(meter, t) ?? (t < meter[0]!.t ? meter[0]!.v : meter.at(-1)!.v)
    const added = (meterAt(to) - meterAt(begin)) * 1000
    const restored = takes * (hold[0]!.v - hold.at(-1)!.v) * 1000
    const total = added + restored
    const allowed =
      ((hydroAllowance.run({ length: section.length, diameter: section.nominal, pressure: Math.max(0, mean) })
        .outputs.litresPerHour as number) *
        p.duration) /
      3600
    const U = gauge.meterUncertainty * Math.abs(added) + takes * Math.SQRT2 * gauge.uncertainty * 1000
    const within = (v: number, limit: number) =>
      judged(v, 'Pa', limit, gauge.uncertainty, judge(v, low, high, gauge.uncertainty))
    const running = last < end
    return {
      numbers: {
        lowest: within(lowest, low),
        highest: within(highest, high),
        meanPressure: said(mean, 'Pa'),
        added: said(added, 'L'),
        restored: said(restored, 'L'),
        // Before the hold has run out the water so far says nothing against what is allowed for all of it.
        total: running
          ? { value: total, unit: 'L', limit: allowed, uncertainty: U }
          : judged(total, 'L', allowed, U, judge(total, null, allowed, U)),
        allowed: said(allowed, 'L'),
      },
      phases: [{ key: 'hold', from: begin, to }],
      needed: running ? end - last : null,
      running,
      cautions: feigned(run, hold, U, takes),
    }
  },
})

/** What a change of temperature hides or feigns, where that is more than the total is known to. */
function feigned(
  {
    section,
    curve,
  }: { section: Parameters<typeof stiffness>[0]; curve: (c: 'pipe') => { t: number; v: number }[] },
  hold: { t: number; v: number }[],
  uncertainty: number,
  takes: number,
): string[] {
  if (section.poisson === null || section.pipeExpansion === null || section.restrained === null) return []
  const moved = correctHold(hold, curve('pipe'), section)
  if (!moved) return []
  const litres = moved.k * moved.moved * takes * 1000
  if (Math.abs(litres) <= uncertainty) return []
  const way = litres > 0 ? 'hides' : 'feigns'
  return [
    `The temperature moved by ${moved.moved.toFixed(1)} K: that ${way} about ${Math.abs(litres).toFixed(1)} L.`,
  ]
}
