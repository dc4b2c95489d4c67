import { peAirCheck } from '../../calculators/hydro'
import { notNegative, optional, positive, withDefault } from '../../calculators/input'
import { Problem } from '../../problem'
import { between, highestOf, lowestOf, valueAt } from '../curve'
import { eventAt, holdEnd, reachedAt, steepestFall, unpaused } from '../events'
import { filledVolume } from '../section'
import { defineTestMethod, judged, notBegun, type Outcome } from './define'
import { KEPT } from './pe-expansion'

/** Polyethylene in three phases: creep, a quick lowering that shows the air, and the pipe's own pull. */
export const peThreePhase = defineTestMethod({
  key: 'pe-three-phase',
  title: 'Polyethylene, in three phases',
  materials: ['PE', 'polyethylene'],
  parameters: {
    testPressure: positive('pressure', 'kPa'),
    keep: withDefault(positive('time', 'min'), 1800),
    creep: withDefault(positive('time', 'min'), 3600),
    minRemaining: withDefault(positive('ratio', '%'), 0.7),
    minLowering: withDefault(positive('ratio', '%'), 0.1),
    maxLowering: withDefault(positive('ratio', '%'), 0.15),
    contraction: withDefault(positive('time', 'min'), 1800),
    extended: withDefault(positive('time', 'min'), 5400),
    maxFall: withDefault(positive('pressure', 'kPa'), 25e3),
    releasedVolume: optional(notNegative('volume', 'L')),
  },
  words: {
    testPressure: { title: 'Test pressure at the gauge', why: 'Of the approved plan.' },
    keep: { title: 'Kept at pressure', why: 'The pump keeps it while the pipe takes up its first creep.' },
    creep: { title: 'Creep', why: 'The pump is off: too much lost means air or a leak.' },
    minRemaining: { title: 'Left after the creep', why: 'Less: stop, rest, begin again.' },
    minLowering: { title: 'Lowered by at least', why: 'Less does not stop the creep.' },
    maxLowering: { title: 'Lowered by at most', why: 'More wastes what the pipe should show.' },
    contraction: { title: 'Contraction', why: 'A tight pipe draws together and its pressure rises.' },
    extended: { title: 'Contraction when in doubt', why: 'Some pipes show it later.' },
    maxFall: { title: 'Fall allowed from the peak', why: 'When it was extended.' },
    releasedVolume: { title: 'Water let out', why: 'Measured, where no meter runs backward.' },
  },
  section: ['length', 'insideDiameter', 'wall', 'modulus'],
  phases: { keep: 'Kept', creep: 'Creep', lowering: 'Lowered', contraction: 'Contraction' },
  numbers: {
    lowest: {
      title: 'Lowest pressure while kept',
      formula: 'test pressure − 35 kPa',
      bound: 'at least',
      of: 'keep',
    },
    remaining: {
      title: 'Left after the creep',
      formula: 'share of the test pressure',
      bound: 'at least',
      of: 'creep',
    },
    loweredBy: {
      title: 'Lowered by',
      formula: 'share of the pressure before it',
      bound: 'about',
      of: 'lowering',
    },
    released: { title: 'Water let out', formula: 'more is air', bound: 'at most', of: 'lowering' },
    releasable: { title: 'Water that a pipe without air lets out', formula: '1.2·V·Δp·(1/K + D/(e·E))' },
    change: { title: 'Rise in the contraction', formula: 'end − when it was lowered', bound: 'at least' },
    fallFromPeak: {
      title: 'Fall from the peak',
      formula: 'highest since it was lowered − last',
      bound: 'at most',
      of: 'contraction',
    },
  },
  why: 'Polyethylene creeps and draws together again: a tight pipe rises after a quick lowering.',
  cautions: ['Stored energy: nobody over or in front of a closure. Vent before loosening anything.'],
  evaluate(run): Outcome {
    const { parameters: p, gauge, events, pauses, last, judge } = run
    const meter = run.curve('makeup')
    if (meter.length === 0 && p.releasedVolume === null)
      throw new Problem('missing', 'Say how much water was let out: there is no meter.', 'releasedVolume')
    const pressure = run.curve('pressure')
    const begun = reachedAt(events, pressure, p.testPressure, gauge.uncertainty)
    if (begun === null) return notBegun('The test pressure was never reached.')
    const off = eventAt(events, 'pump-off', begun) ?? holdEnd(begun, p.keep, pauses)
    const lowest = lowestOf(unpaused(between(pressure, begun, Math.min(off, last)), pauses))
    const numbers: Outcome['numbers'] = {
      lowest: judged(
        lowest,
        'Pa',
        p.testPressure - KEPT,
        gauge.uncertainty,
        judge(lowest, p.testPressure - KEPT, null, gauge.uncertainty),
      ),
    }
    const phases: Outcome['phases'] = [{ key: 'keep', from: begun, to: Math.min(off, last) }]
    const waiting = (until: number, waits: string): Outcome => ({
      numbers,
      phases,
      needed: Math.max(0, until - last),
      running: true,
      waits,
    })
    if (last < off) return waiting(off, 'It is kept at pressure.')
    const crept = holdEnd(off, p.creep, pauses)
    phases.push({ key: 'creep', from: off, to: Math.min(crept, last) })
    if (last < crept) return waiting(crept, 'It creeps.')
    const remaining = valueAt(pressure, crept)! / p.testPressure
    const shareU = gauge.uncertainty / p.testPressure
    numbers.remaining = judged(
      remaining,
      '',
      p.minRemaining,
      shareU,
      judge(remaining, p.minRemaining, null, shareU),
    )
    const fall = steepestFall(pressure, crept, 0.05 * p.testPressure)
    const lowering = eventAt(events, 'lowering', off) ?? fall?.[0].t ?? null
    // A foot at the end of the log may still be falling.
    const lowered =
      lowering === null
        ? null
        : (eventAt(events, 'lowered', lowering) ??
          (fall && fall[1].t > lowering && fall[1].t < last ? fall[1].t : null))
    if (lowering === null || lowered === null || lowered > last)
      return { ...waiting(last, 'It has not been lowered yet.'), needed: 0 }
    const [top, foot] = [valueAt(pressure, lowering)!, valueAt(pressure, lowered)!]
    const by = (top - foot) / top
    const byU = (Math.SQRT2 * gauge.uncertainty) / top
    const limit = by < (p.minLowering + p.maxLowering) / 2 ? p.minLowering : p.maxLowering
    numbers.loweredBy = judged(by, '', limit, byU, judge(by, p.minLowering, p.maxLowering, byU))
    const metered = (t: number) => valueAt(meter, t) ?? meter.at(-1)!.v
    const released = p.releasedVolume ?? metered(lowering) - metered(lowered)
    const { section } = run
    const releasable = peAirCheck.run({
      volume: filledVolume(section),
      drop: Math.max(0, top - foot),
      insideDiameter: section.insideDiameter,
      wall: section.wall,
      modulus: section.modulus,
      released: Math.max(0, released),
    }).outputs.allowed as number
    const outU = gauge.meterUncertainty * released * 1000
    numbers.released = judged(
      released * 1000,
      'L',
      releasable * 1000,
      outU,
      judge(released * 1000, null, releasable * 1000, outU),
    )
    numbers.releasable = { value: releasable * 1000, unit: 'L' }
    phases.push({ key: 'lowering', from: lowering, to: lowered })
    const drawn = holdEnd(lowered, p.contraction, pauses)
    const U = Math.SQRT2 * gauge.uncertainty
    if (last < drawn) {
      phases.push({ key: 'contraction', from: lowered, to: last })
      return waiting(drawn, 'It draws together.')
    }
    const change = valueAt(pressure, drawn)! - foot
    const rises = judge(change, 0, null, U)
    numbers.change = { value: change, unit: 'Pa', limit: 0, uncertainty: U }
    if (rises === 'accept') {
      numbers.change.verdict = 'accept'
      phases.push({ key: 'contraction', from: lowered, to: drawn })
      return { numbers, phases, needed: null, running: false }
    }
    const longer = holdEnd(lowered, p.extended, pauses)
    phases.push({ key: 'contraction', from: lowered, to: Math.min(longer, last) })
    if (last < longer) return waiting(longer, 'It has not risen: it goes on.')
    const stretch = unpaused(between(pressure, lowered, longer), pauses)
    const from = highestOf(stretch) - stretch.at(-1)!.v
    numbers.fallFromPeak = judged(from, 'Pa', p.maxFall, U, judge(from, null, p.maxFall, U))
    return { numbers, phases, needed: null, running: false }
  },
})
