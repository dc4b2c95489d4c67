import { Worker, isMainThread, parentPort } from 'node:worker_threads'
import { judge } from '../core/judgement/judge'
import { standing } from '../core/judgement/standing'
import type { Entry } from '../core/record/entry'
import { entry, T0 } from '../tests/core/support'
import { reachOf } from '../tests/core/checks/reach'

/**
 * Judging reaches of sixty entries in a worker, against a loop written by hand for the same checks of the
 * same records: lifts with their levels by side, density with its retests, levels and the survey.
 * Run by `bench/bundled.ts`: a worker takes no loader along.
 */
const REACHES = 5000
const SHOWN = 10
const OD = 0.4
const { compiled } = reachOf({
  trench: { kind: 'confirm', question: 'Looked at?' },
  levels: { kind: 'levels', start: 100, gravity: true },
  lifts: { kind: 'lifts', od: 'pipe.od', target: '4 m' },
  density: { kind: 'density', due: 8 },
  survey: { kind: 'survey', base: '0.36 m', uncertainty: '1 mm', from: 'trench', rest: 0, minPoints: 4 },
})
const facts = { 'pipe.od': OD }
const REST_TO = T0 + 90 * 86_400_000

/** One reach of sixty entries; every seventh has a lift that is too thick, every fifth a failed test. */
function recordOf(n: number): Entry[] {
  const at = (i: number) => i + 1
  const lifts = Array.from({ length: 44 }, (_v, i) =>
    entry(
      'lifts',
      'lift',
      {
        ...{ side: i % 2 ? 'right' : 'left', thickness: n % 7 === 0 && i === 9 ? 0.31 : 0.22, passes: 4 },
        ...{ plant: 'hand', material: 'sand', moisture: 'damp', haunched: true },
      },
      at(i + 3),
    ),
  )
  const densities: Entry[] = []
  for (let i = 0; i < 11; i++) {
    const failed = densities.at(-1)
    const retest = i > 0 && i % 5 === 1 && n % 5 === 0
    densities.push(
      entry(
        'density',
        'density',
        {
          ...{ side: 'left', station: 10, moisture: 0.08, maximum: 1900, method: 'nuclear' },
          wetDensity: n % 5 === 0 && i % 5 === 0 ? 1800 : 1980,
          ...(retest ? { retestOf: failed!.id } : {}),
        },
        at(i + 50),
      ),
    )
  }
  const levels = entry(
    'levels',
    'levels',
    {
      rows: [
        { backsight: 1.5 },
        ...[0, 6, 12, 18].map((station) => ({
          intermediate: 2.5 + station * 0.005,
          station,
          design: 99 - station * 0.005,
        })),
        { foresight: 1.5 },
      ],
    },
    at(2),
  )
  const surveys = [0, 1, 2].map((k) =>
    entry(
      'survey',
      'survey',
      { rows: [0, 3, 6].map((d) => ({ station: k * 10 + d, vertical: 0.352 - (n % 11) * 0.0001 })) },
      at(70 + k),
    ),
  )
  return [
    entry('trench', 'confirmation', { answer: 'yes' }, at(0)),
    levels,
    ...lifts,
    ...densities,
    ...surveys,
  ]
}

type States = [trench: string, levels: string, lifts: string, density: string, survey: string]

/** The same checks without a procedure: what a person would write for these five steps alone. */
function byHand(all: readonly Entry[]): States {
  const lifts: Entry[] = []
  const tests: Entry[] = []
  const rows = new Map<number, number>()
  let trench = 'not-started'
  let booked: Entry | null = null
  for (const e of standing(all))
    if (e.kind === 'lift') lifts.push(e)
    else if (e.kind === 'density') tests.push(e)
    else if (e.kind === 'levels') booked = e
    else if (e.kind === 'survey')
      for (const r of e.payload.rows as { station: number; vertical: number }[])
        rows.set(Math.round(r.station * 20), r.vertical)
    else trench = e.payload.answer === 'yes' ? 'accepted' : 'rejected'
  let [left, right, bad] = [0, 0, false]
  for (const { payload: p } of lifts) {
    const own = p.side === 'left' ? left : right
    const other = p.side === 'left' ? right : left
    const thick = p.thickness as number
    bad ||=
      thick > 0.3 + 1e-9 ||
      (p.passes as number) < 3 ||
      own - other > 0.15 + 1e-9 ||
      p.moisture === 'wet' ||
      (own < OD / 2 && p.haunched !== true)
    if (p.side === 'left') left += thick * 0.85
    else right += thick * 0.85
  }
  const filled = bad ? 'rejected' : Math.min(left, right) >= 4 - 1e-9 ? 'accepted' : 'in-work'
  const open = new Set<string>()
  let good = 0
  for (const { id, payload: p } of tests) {
    const c = (p.wetDensity as number) / (1 + (p.moisture as number)) / (p.maximum as number)
    if (c - 0.9 >= 0.005) {
      good++
      if (p.retestOf) open.delete(p.retestOf as string)
    } else open.add(id)
  }
  const dense = open.size > 0 ? 'rejected' : good >= 8 ? 'accepted' : 'in-work'
  let [level, sight, before, wrong] = [100, 0, Infinity, false]
  for (const r of booked!.payload.rows as Record<string, number>[]) {
    if (r.backsight !== undefined) sight = level + r.backsight
    else level = sight - (r.intermediate ?? r.foresight)!
    if (r.design === undefined) continue
    wrong ||= Math.abs(level - r.design) > 0.01 + 1e-9 || level >= before - 1e-9
    before = level
  }
  let worst = 0
  for (const v of rows.values()) worst = Math.max(worst, (0.36 - v) / 0.36)
  const u = 0.001 / 0.36
  const deflected =
    worst - 0.05 >= u ? 'rejected' : rows.size < 4 ? 'in-work' : 0.05 - worst < u ? 'too-close' : 'accepted'
  return [trench, wrong ? 'rejected' : 'accepted', filled, dense, deflected]
}

if (isMainThread) {
  const bundle = new URL('../node_modules/.cache/vet-line-bench.mjs', import.meta.url)
  const worker = new Worker(bundle, { execArgv: [] })
  worker.once('message', ({ hand, judged, whole }: Record<string, number>) => {
    const show = (ms: number) => `${(ms / 1000).toFixed(2)} s`
    console.log(`${REACHES} reaches of 60 entries in a worker, the middle of ${SHOWN} rounds`)
    console.log(`by hand                      ${show(hand!)}`)
    const times = (ms: number) => `${(ms / hand!).toFixed(1)} times as long (at most 10)`
    console.log(`judged, states only          ${show(judged!)}: ${times(judged!)}`)
    console.log(`judged, with every sentence  ${show(whole!)}: ${times(whole!)}`)
  })
} else {
  const records = Array.from({ length: REACHES }, (_v, n) => recordOf(n))
  for (const [n, entries] of records.slice(0, 400).entries()) {
    if (entries.length !== 60) throw new Error(`A record has ${entries.length} entries.`)
    const states = judge(compiled, facts, entries, REST_TO).steps.map((s) => s.state)
    const hand = byHand(entries)
    if (states.join() !== hand.join())
      throw new Error(`Reach ${n}: ${hand.join()} by hand, ${states.join()}.`)
  }
  const acts = {
    hand: (e: Entry[]) => byHand(e),
    judged: (e: Entry[]) => judge(compiled, facts, e, REST_TO, { brief: true }),
    whole: (e: Entry[]) => judge(compiled, facts, e, REST_TO).steps.map((s) => s.sentence),
  }
  const took: Record<string, number[]> = { hand: [], judged: [], whole: [] }
  for (let round = 0; round < SHOWN; round++)
    for (const [key, act] of Object.entries(acts)) {
      const begun = performance.now()
      for (const record of records) act(record)
      took[key]!.push(performance.now() - begun)
    }
  const middle = (list: number[]) => list.sort((a, b) => a - b)[list.length >> 1]!
  parentPort!.postMessage(Object.fromEntries(Object.entries(took).map(([k, list]) => [k, middle(list)])))
}
