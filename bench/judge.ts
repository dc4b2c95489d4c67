import { judge } from '../core/judgement/judge'
import { standing } from '../core/judgement/standing'
import { conforming, electrofusion, facts180, T0 } from '../tests/core/support'
import { rates } from './slices'

/**
 * Judging one joint against a function written by hand for the same checks of the same record: the
 * state of every step, with the instrument's uncertainty, the hold point and the clocks.
 *
 * Run by `bench/bundled.ts`, as the application runs: the loader's additions cost judging half again as much.
 */
const entries = conforming()
const now = T0 + 500 * 60_000
const f = facts180
type State = 'accepted' | 'rejected' | 'too-close' | 'not-started' | 'not-applicable'

const band = (margin: number, u: number): State =>
  margin >= u - 1e-12 ? 'accepted' : margin <= -u + 1e-12 ? 'rejected' : 'too-close'
function byHand(): Map<string, State> {
  const last = new Map<string, (typeof entries)[number]>()
  let released = Infinity
  for (const e of standing(entries)) {
    if (e.kind === 'release') released = Math.min(released, e.recordedAt)
    else if (e.step && e.kind !== 'request') last.set(e.step, e)
  }
  const states = new Map<string, State>()
  for (const key of [
    'right-parts',
    'installer',
    'instruments',
    'tools',
    'ppe',
    'shelter',
    'washed',
    'sound',
    'scrape-mark',
    'peeled',
    'chamfer',
    'stab-mark',
    'untouched',
    'bag',
    'fresh-wipe',
    'clamped',
    'power',
    'fusion-start',
    'not-moved',
    'looks',
  ]) {
    const e = last.get(key)
    states.set(key, !e ? 'not-started' : e.payload.answer === 'yes' ? 'accepted' : 'rejected')
  }
  const values = (key: string) => (last.get(key)?.payload.values as number[] | undefined) ?? null
  const judged = (key: string, u: number, margin: (v: number[]) => number) => {
    const v = values(key)
    states.set(key, v ? band(margin(v), u) : 'not-started')
  }
  const least = (v: number[], margin: (x: number) => number) => {
    let out = Infinity
    for (const x of v) out = Math.min(out, margin(x))
    return out
  }
  states.set(
    'rating',
    Math.min(f['pipe.rating'], f['fitting.rating']) >= f['line.designPressure'] ? 'accepted' : 'rejected',
  )
  judged('temperature', 0.5, (v) => least(v, (x) => Math.min(x + 10, 45 - x)))
  judged('square', 0.0005, (v) => least(v, (x) => 0.02 * f['pipe.od'] - x))
  judged('gouge', 0.0001, (v) => least(v, (x) => 0.1 * f['pipe.wall'] - x))
  judged('peel-depth', 0.00002, (v) => least(v, (x) => Math.min(x - 0.0002, 0.0004 - x)))
  judged(
    'ovality',
    0.0002 * Math.SQRT2,
    (v) => Math.min(0.015 * f['pipe.od'], 0.003) - (Math.max(...v) - Math.min(...v)),
  )
  judged('stab-check', 0.0005, (v) => least(v, (x) => 0.003 - Math.abs(x)))
  judged('controller-time', 0, (v) => least(v, (x) => -Math.abs(x - f['fitting.fusionTime'])))
  const wiped = last.get('wiped')?.payload.choice
  states.set(
    'wiped',
    wiped === undefined ? 'not-started' : wiped === 'ipa96' || wiped === 'cleaner' ? 'accepted' : 'rejected',
  )
  for (const key of [
    'large-tools',
    'restraints-fused',
    'restraints-cooling',
    'restraints',
    'pull-in',
    'feeler',
  ])
    states.set(key, f['pipe.od'] >= 0.4 ? 'not-started' : 'not-applicable')
  for (const key of ['label-range', 'scribed']) states.set(key, 'not-applicable')
  let past = false
  for (const e of last.values())
    if (e.recordedAt > last.get('before-fusion')!.recordedAt && e.recordedAt < released) past = true
  states.set('before-fusion', past ? 'rejected' : released < Infinity ? 'accepted' : 'not-started')
  const start = last.get('fusion-start')!.recordedAt
  const since = (key: string, seconds: number) =>
    states.set(
      key,
      !last.has(key)
        ? 'not-started'
        : last.get(key)!.recordedAt >= start + seconds * 1000
          ? 'accepted'
          : 'rejected',
    )
  since('fusion-run', f['fitting.fusionTime'])
  since('cooling', f['fitting.fusionTime'] + f['fitting.coolingTime'])
  states.set(
    'earliest-test',
    now >= start + (f['fitting.fusionTime'] + 4 * f['fitting.coolingTime']) * 1000
      ? 'accepted'
      : 'not-started',
  )
  return states
}

const hand = byHand()
for (const s of judge(electrofusion, f, entries, now).steps)
  if (hand.get(s.key) !== s.state)
    throw new Error(`The two do not agree at ${s.key}: ${hand.get(s.key)} and ${s.state}.`)
const tens = (act: () => unknown) => () => {
  for (let i = 0; i < 10; i++) act()
}
const rate = rates({
  hand: tens(byHand),
  judged: tens(() => judge(electrofusion, f, entries, now, { brief: true })),
  whole: tens(() => judge(electrofusion, f, entries, now)),
})
const show = (n: number) => (n * 10).toFixed(0).padStart(8)
console.log(`by hand                      ${show(rate.hand!)} joints/s`)
console.log(
  `judged, states only          ${show(rate.judged!)} joints/s: ${(rate.hand! / rate.judged!).toFixed(1)} times slower (at most 4)`,
)
console.log(
  `judged, with every sentence  ${show(rate.whole!)} joints/s: ${(rate.hand! / rate.whole!).toFixed(1)} times slower (at most 6)`,
)
