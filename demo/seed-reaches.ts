import { insertReach } from '../server/db/reaches'
import { DAY, HOUR, keepJudged, MINUTE, write, type Brief, type Ground } from './ground'

export const EMBEDMENT = 'embed-flexible'
const OD = 0.315
const LENGTH = 60

/** What every reach answers before its fill. */
const before: [step: string, kind: Brief['kind'], payload: Record<string, unknown>][] = [
  ['trench-looked', 'confirmation', { answer: 'yes' }],
  ['services', 'confirmation', { answer: 'yes' }],
  ['trench-width', 'reading', { values: [0.82], typed: ['820 mm'] }],
  ['support', 'choice', { choice: 'none' }],
  ['spoil', 'confirmation', { answer: 'yes' }],
  ['way-out', 'confirmation', { answer: 'yes' }],
  ['water', 'confirmation', { answer: 'yes' }],
  ['bottom-clean', 'confirmation', { answer: 'yes' }],
  ['native-whole', 'confirmation', { answer: 'yes' }],
  ['bed-material', 'choice', { choice: 'granular' }],
  ['bed-thickness', 'reading', { values: [0.12], typed: ['120 mm'] }],
  ['bed-compacted', 'confirmation', { answer: 'yes' }],
  ['bell-holes', 'confirmation', { answer: 'yes' }],
]
const after: typeof before = [
  ['jetting', 'confirmation', { answer: 'yes' }],
  ['filled', 'confirmation', { answer: 'yes' }],
  ['end-closed', 'confirmation', { answer: 'yes' }],
]
/** What is known of every reach of the main: a pressure line, so no levels and no survey of it. */
const FACTS = {
  'pipe.od': OD,
  'pipe.bore': 0.2578,
  'pipe.profile': false,
  'pipe.strutted': false,
  'site.depth': 1.15,
  'site.unsupported': 1.2,
  'site.bed': 0.1,
  'site.wet': false,
  'site.levels': false,
  'line.gravity': false,
  'line.against': false,
  'site.window': 0.7,
  'site.cover': 0.9,
  'site.designCover': 0.9,
  'site.traffic': false,
  'site.floods': false,
  'site.deflection': 0.05,
  'site.surveyPoints': 0,
  'site.road': false,
  'site.tests': 3,
}

/** Reaches of the main: filled up to yesterday, one failed density, one thin lift, one at work. */
export async function layReaches(g: Ground): Promise<void> {
  const { db, random, now } = g
  const facts = FACTS
  for (let n = 0; n < 46; n++) {
    const id = random.id(now - 30 * DAY)
    const crew = Math.floor(n / 5) % 2
    const at = now - ((43 - n) / 43) * 27 * DAY - 5 * HOUR
    await insertReach(db, g.project.id, {
      id,
      alignment: g.lines.main,
      crew: g.crews[crew]!,
      name: `RM reach ${String(n + 1).padStart(2, '0')}`,
      from: n * LENGTH,
      to: n * LENGTH + LENGTH,
      system: EMBEDMENT,
      procedure: g.procedures[EMBEDMENT]!,
      facts,
      openedAt: new Date(Math.min(at, now - HOUR)),
    })
    if (n > 43) continue
    const lift = (side: string, thickness: number, k: number, more: object = {}): Brief => ({
      kind: 'lift',
      step: 'lifts',
      payload: {
        side,
        thickness,
        passes: 4,
        plant: 'hand',
        material: 'sand',
        moisture: 'damp',
        haunched: true,
        ...more,
      },
      at: at + HOUR + k * 20 * MINUTE,
    })
    const density = (wet: number, k: number): Brief => ({
      kind: 'density',
      step: 'density',
      payload: {
        side: k % 2 ? 'left' : 'right',
        station: n * LENGTH + 11 * k,
        wetDensity: wet,
        moisture: 0.09,
        maximum: 1880,
        method: 'nuclear',
      },
      at: at + HOUR + k * 20 * MINUTE + 5 * MINUTE,
    })
    const answers = (list: typeof before, from: number): Brief[] =>
      list.map(([step, kind, payload], i) => ({ step, kind, payload, at: from + i * 3 * MINUTE }))
    const filled = [
      lift('left', 0.18, 0),
      lift('right', 0.18, 1),
      lift('both', 0.18, 2),
      lift('both', 0.18, 3),
      lift('both', 0.25, 4, { plant: 'plate' }),
    ]
    const tests = [1, 2, 3].map((k) => density(random.between(1880, 1960, 1), k + 4))
    const [noJets, topped, closed] = answers(after, at + HOUR + 5 * 20 * MINUTE) as [Brief, Brief, Brief]
    const end = [
      { ...topped, at: at + 4.8 * HOUR },
      { ...closed, at: at + 4.9 * HOUR },
    ]
    const whole = [...filled, noJets, ...tests, ...end]
    const list =
      n === 43
        ? filled.slice(0, 2)
        : n === 42
          ? [...filled.slice(0, 2), lift('left', 0.25, 2, { passes: 2 })]
          : n === 41
            ? [...filled, noJets, density(1846, 6)]
            : whole
    const entries = await write(g, 'reach', id, crew === 0 ? 'tam' : 'rhona', [
      ...answers(before, at),
      ...list,
    ])
    const until = Date.parse(entries.at(-1)!.receivedAt)
    await keepJudged(g, 'reach', id, entries, until)
  }
}
