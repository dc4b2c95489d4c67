import { judge, standing } from '../core/judgement/judge'
import { conforming, electrofusion, facts180, T0 } from '../tests/core/support'

/** Judging one joint against a function written by hand for the same checks of the same record. */
const entries = conforming()
const now = T0 + 500 * 60_000
const f = facts180

function byHand(): boolean {
  const last = new Map<string, (typeof entries)[number]>()
  for (const e of standing(entries)) if (e.step && !['request', 'release'].includes(e.kind)) last.set(e.step, e)
  const yes = (key: string) => last.get(key)?.payload.answer === 'yes'
  const values = (key: string) => (last.get(key)?.payload.values as number[]) ?? []
  const released = entries.find((e) => e.kind === 'release')?.recordedAt ?? Infinity
  const d = values('ovality')
  const start = last.get('fusion-start')!.recordedAt
  return (
    ['right-parts', 'installer', 'shelter', 'washed', 'scrape-mark', 'peeled', 'chamfer', 'stab-mark', 'bag', 'clamped', 'before-fusion', 'power', 'fusion-start', 'not-moved', 'looks'].every(yes) &&
    Math.min(f['pipe.rating'], f['fitting.rating']) >= f['line.designPressure'] && values('temperature').every((v) => v - 0.5 >= -10 && v + 0.5 <= 45) && values('square').every((v) => v + 0.0005 <= 0.02 * f['pipe.od']) &&
    values('gouge').every((v) => v + 0.0001 <= 0.1 * f['pipe.wall']) && values('peel-depth').every((v) => v - 0.00002 >= 0.0002 && v + 0.00002 <= 0.0004) && Math.max(...d) - Math.min(...d) + 0.0002 * Math.SQRT2 <= Math.min(0.015 * f['pipe.od'], 0.003) &&
    ['ipa96', 'cleaner'].includes(String(last.get('wiped')?.payload.choice)) && values('stab-check').every((v) => Math.abs(v) + 0.0005 <= 0.003) && values('controller-time').every((v) => v === f['fitting.fusionTime']) && start >= released &&
    last.get('fusion-run')!.recordedAt >= start + f['fitting.fusionTime'] * 1000 && last.get('cooling')!.recordedAt >= start + (f['fitting.fusionTime'] + f['fitting.coolingTime']) * 1000 && now >= start + (f['fitting.fusionTime'] + 4 * f['fitting.coolingTime']) * 1000
  )
}
function rate(act: () => unknown): number {
  for (let i = 0; i < 3000; i++) act()
  const start = process.hrtime.bigint()
  let n = 0
  while (process.hrtime.bigint() - start < 2_000_000_000n) for (let i = 0; i < 100; i++, n++) act()
  return n / 2
}
if (!byHand() || judge(electrofusion, f, entries, now).state !== 'accepted') throw new Error('The two do not agree.')
const [hand, judged] = [rate(byHand), rate(() => judge(electrofusion, f, entries, now))]
console.log(`by hand ${hand.toFixed(0)} joints/s, judged ${judged.toFixed(0)} joints/s: ${(hand / judged).toFixed(1)} times slower (at most 10)`)
