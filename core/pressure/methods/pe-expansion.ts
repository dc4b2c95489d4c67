import { positive, withDefault, notNegative } from '../../calculators/input'
import { between, highestOf, lowestOf, valueAt } from '../curve'
import { eventAt, holdEnd, reachedAt, steepestFall, unpaused } from '../events'
import { stiffness } from '../section'
import { robustSlope } from '../slope'
import { defineTestMethod, judged, met, notBegun, said, type Outcome } from './define'

/** How far below the test pressure still counts as kept: makeup pumps work in strokes. */
export const KEPT = 35e3

/** Polyethylene by expansion: kept at pressure, lowered, then nothing added; it stays within a band. */
export const peExpansion = defineTestMethod({
  key: 'pe-expansion',
  title: 'Polyethylene, by expansion',
  materials: ['PE', 'polyethylene'],
  parameters: {
    testPressure: positive('pressure', 'kPa'),
    expansion: withDefault(positive('time', 'h'), 4 * 3600),
    reduction: withDefault(positive('pressure', 'kPa'), 70e3),
    band: withDefault(positive('ratio', '%'), 0.05),
    hold: withDefault(positive('time', 'h'), 3600),
    maxTotal: withDefault(positive('time', 'h'), 8 * 3600),
    lag: withDefault(notNegative('time', 's'), 0),
  },
  words: {
    testPressure: { title: 'Test pressure at the gauge', why: 'Of the approved plan.' },
    expansion: { title: 'Expansion', why: 'The pipe creeps fastest at first.' },
    reduction: { title: 'Lowered by', why: 'The pipe must no longer expand when the hold begins.' },
    band: { title: 'Band of the hold', why: 'Share of the pressure that the hold may stray by.' },
    hold: { title: 'Hold', why: 'Nothing is added meanwhile.' },
    maxTotal: {
      title: 'Longest time at pressure',
      why: 'Longer harms the pipe: it rests before another test.',
    },
    lag: { title: 'Lag of the sensor', why: 'The water follows the wall slowly.' },
  },
  section: ['length', 'insideDiameter', 'wall', 'modulus'],
  phases: { expansion: 'Expansion', reduction: 'Lowered', hold: 'Hold' },
  numbers: {
    expansion: {
      title: 'Expansion at test pressure',
      formula: 'from reached to lowering',
      bound: 'at least',
      of: 'reduction',
    },
    kept: {
      title: 'Lowest pressure in the expansion',
      formula: 'test pressure − 35 kPa',
      bound: 'at least',
      of: 'expansion',
    },
    reduction: { title: 'Lowered by', formula: 'within a fifth', bound: 'about' },
    added: { title: 'Water added in the hold', formula: 'by the meter', bound: 'at most' },
    change: {
      title: 'Greatest change in the hold',
      formula: 'share of the pressure at its begin',
      bound: 'within',
    },
    total: {
      title: 'Total time at pressure',
      formula: 'from reached to the end of the hold',
      bound: 'at most',
    },
    slope: { title: 'Trend in the hold', formula: 'median of slopes' },
    leak: { title: 'A leak of this size would do it', formula: '−slope · V·(1/K + c·D/(e·E))' },
  },
  why: 'Polyethylene creeps: its pressure falls while it is tight. After it is lowered the pipe stands still.',
  cautions: ['Stored energy: nobody over or in front of a closure. Vent before loosening anything.'],
  evaluate(run): Outcome {
    const { parameters: p, gauge, events, pauses, last, judge } = run
    const pressure = run.curve('pressure')
    const begun = reachedAt(events, pressure, p.testPressure, gauge.uncertainty)
    if (begun === null) return notBegun('The test pressure was never reached.')
    const fall = steepestFall(pressure, begun, p.reduction / 2)
    const lowering = eventAt(events, 'lowering', begun) ?? fall?.[0].t ?? null
    // A foot at the end of the log may still be falling.
    const lowered =
      lowering === null
        ? null
        : (eventAt(events, 'lowered', lowering) ??
          (fall && fall[1].t > lowering && fall[1].t < last ? fall[1].t : null))
    const kept = lowestOf(between(pressure, begun, lowering ?? last))
    const numbers: Outcome['numbers'] = {
      kept: judged(
        kept,
        'Pa',
        p.testPressure - KEPT,
        gauge.uncertainty,
        judge(kept, p.testPressure - KEPT, null, gauge.uncertainty),
      ),
    }
    if (lowering === null || lowered === null)
      return {
        numbers,
        phases: [{ key: 'expansion', from: begun, to: lowering ?? last }],
        needed: Math.max(0, begun + p.expansion - last),
        running: true,
        waits: 'The pressure has not been lowered yet.',
      }
    const [top, foot] = [valueAt(pressure, lowering)!, valueAt(pressure, lowered)!]
    const end = holdEnd(lowered, p.hold, pauses)
    const hold = unpaused(between(pressure, lowered, Math.min(end, last)), pauses)
    const away = [highestOf(hold) - foot, lowestOf(hold) - foot]
    const change = (Math.abs(away[0]!) >= Math.abs(away[1]!) ? away[0]! : away[1]!) / foot
    const U = (Math.SQRT2 * gauge.uncertainty) / foot
    const meter = run.curve('makeup')
    const poured =
      meter.length > 0 ? (valueAt(meter, Math.min(end, last)) ?? 0) - (valueAt(meter, lowered) ?? 0) : null
    const fallen = top - foot
    const total = end - begun
    const trend = robustSlope(hold, gauge.resolution)
    return {
      numbers: {
        expansion: judged(lowering - begun, 's', p.expansion, 0, met(lowering - begun >= p.expansion - 1e-9)),
        ...numbers,
        reduction: judged(
          fallen,
          'Pa',
          p.reduction,
          gauge.uncertainty,
          judge(fallen, 0.8 * p.reduction, 1.2 * p.reduction, gauge.uncertainty),
        ),
        added:
          poured === null ? said(null, 'L') : judged(poured * 1000, 'L', 0, 0, met(Math.abs(poured) <= 1e-9)),
        change: judged(change, '', p.band, U, judge(change, -p.band, p.band, U)),
        total: judged(total, 's', p.maxTotal, 0, met(total <= p.maxTotal + 1e-9)),
        slope: said(trend && trend.slope * 3600, 'Pa/h'),
        leak: said(trend && -trend.slope * stiffness(run.section) * 3.6e6, 'L/h'),
      },
      phases: [
        { key: 'expansion', from: begun, to: lowering },
        { key: 'reduction', from: lowering, to: lowered },
        { key: 'hold', from: lowered, to: Math.min(end, last) },
      ],
      needed: last < end ? end - last : null,
      running: last < end,
      cautions:
        poured === null ? ['There is no meter: that nothing was added rests on those who stood there.'] : [],
    }
  },
})
