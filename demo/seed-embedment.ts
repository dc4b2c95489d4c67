import { exampleFacts } from '../core/procedure/facts'
import { loadProcedure } from '../core/procedure/load'
import { insertPlants } from '../server/db/plants'
import { insertCurves } from '../server/db/curves'
import { insertReach } from '../server/db/reaches'
import { testPlaces } from '../core/embedment/places'
import { DAY, HOUR, keepJudged, MINUTE, write, type Brief, type Ground } from './ground'
import { procedureSource } from './system-records'

type Facts = Record<string, number | string | boolean>
type Answer = Pick<Brief, 'step' | 'kind' | 'payload'> & { by?: string; after?: number }

const yes = (step: string): Answer => ({ step, kind: 'confirmation', payload: { answer: 'yes' } })
const choose = (step: string, choice: string): Answer => ({ step, kind: 'choice', payload: { choice } })
const read = (step: string, ...values: number[]): Answer => ({
  step,
  kind: 'reading',
  payload: { values, typed: values.map((v) => `${Math.round(v * 1000)} mm`) },
})
const lift = (side: string, thickness: number, more: object = {}): Answer => ({
  step: 'lifts',
  kind: 'lift',
  payload: {
    side,
    thickness,
    passes: 4,
    plant: 'hand',
    material: 'gravel',
    moisture: 'damp',
    haunched: true,
    ...more,
  },
})
/** A level book from the benchmark over the pipes and back to it. */
const levels = (
  benchmark: number,
  pipes: { station: number; design: number; off: number }[],
  close = 0.001,
) => {
  const sight = benchmark + 1.42
  return {
    step: 'inverts',
    kind: 'levels' as const,
    payload: {
      rows: [
        { backsight: 1.42 },
        ...pipes.map((p) => ({
          intermediate: Math.round((sight - p.design - p.off) * 1e4) / 1e4,
          station: p.station,
          design: p.design,
        })),
        { foresight: Math.round((1.42 + close) * 1e4) / 1e4 },
      ],
    },
  }
}

interface Place {
  line: string
  crew: number
  name: string
  from: number
  to: number
  system: string
  facts: Facts
  /** when its first answer was given, ms */
  at: number
  who: string
}

/** Opens a reach and writes its answers, five minutes apart unless one says otherwise. */
async function layReach(g: Ground, place: Place, answers: (id: string) => Answer[]): Promise<void> {
  const id = g.random.id(g.now - 30 * DAY)
  await insertReach(g.db, g.project.id, {
    ...{ id, alignment: place.line, crew: g.crews[place.crew]!, name: place.name },
    ...{ from: place.from, to: place.to, system: place.system },
    procedure: g.procedures[place.system]!,
    facts: place.facts,
    openedAt: new Date(place.at - MINUTE),
  })
  let at = place.at
  let entries: Awaited<ReturnType<typeof write>> = []
  for (const { by, after = 5 * MINUTE, ...answer } of answers(id)) {
    at += after
    entries = await write(g, 'reach', id, by ?? place.who, [{ ...answer, at }], entries)
  }
  const until = Date.parse(entries.at(-1)!.receivedAt)
  await keepJudged(g, 'reach', id, entries, until)
}

const looked = ['trench-looked', 'services', 'spoil', 'way-out', 'water'].map(yes)

/** Profile-wall pipe of the outfall: strutted, in a box, deep; each reach pressed a little farther down. */
const OUTFALL = { od: 1.02, bore: 0.9, length: 18, first: 130 }
const outfallFacts = (invert: number): Facts => ({
  ...{ 'pipe.od': OUTFALL.od, 'pipe.bore': OUTFALL.bore, 'pipe.profile': true, 'pipe.strutted': true },
  ...{ 'pipe.mass': 62, 'pipe.stiffness': 190e3, 'site.soilModulus': 6.9e6 },
  ...{ 'site.depth': 3.1, 'site.unsupported': 1.2, 'site.bed': 0.15, 'site.wet': true },
  ...{ 'site.levels': true, 'site.invert': invert, 'site.wall': 0.06 },
  ...{ 'site.benchmark': 9.84, 'site.run': 90, 'line.gravity': true, 'line.against': false },
  ...{
    'site.window': 0.7,
    'site.cover': 0.9,
    'pipe.wheel': 40e3,
    'site.designCover': 1.9,
    'site.traffic': false,
  },
  ...{ 'site.floods': false, 'site.deflection': 0.05, 'site.surveyPoints': 4 },
  ...{ 'site.road': false, 'site.tests': 2 },
})
/** How the outfall's crew worked, reach by reach: lifts grew thicker, passes fewer, the pipe went down. */
const habits = [
  { thickness: 0.25, passes: 4, compaction: 0.957, deflection: 0.016 },
  { thickness: 0.25, passes: 4, compaction: 0.953, deflection: 0.018 },
  { thickness: 0.26, passes: 4, compaction: 0.949, deflection: 0.021 },
  { thickness: 0.27, passes: 3, compaction: 0.938, deflection: 0.027 },
  { thickness: 0.28, passes: 3, compaction: 0.931, deflection: 0.034 },
  { thickness: 0.3, passes: 3, compaction: 0.917, deflection: 0.047 },
]

async function layOutfall(g: Ground, line: string): Promise<void> {
  for (let n = 0; n <= habits.length; n++) {
    const from = OUTFALL.first + n * OUTFALL.length
    const invert = 8.05 - n * 0.33
    const habit = habits[n] ?? habits[2]!
    const atWork = n === habits.length
    const facts = outfallFacts(invert)
    const pipes = [0, 6, 12].map((d) => ({
      station: from + d,
      design: Math.round((invert - d * 0.0183) * 1000) / 1000,
      off: g.random.between(-5, 5, 1) / 1000,
    }))
    const test = (id: string, k: number): Answer => {
      const place = testPlaces(id, from, from + OUTFALL.length, 2)[k]!
      const wetDensity = Math.round((habit.compaction + k * 0.006) * 2060 * 1.06)
      const payload = { ...place, wetDensity, moisture: 0.06, maximum: 2060, method: 'nuclear' }
      return { step: 'density', kind: 'density', payload }
    }
    const survey = (): Answer => ({
      step: 'survey',
      kind: 'survey',
      after: 15 * HOUR,
      payload: {
        rows: [2, 6.5, 11, 16].map((d, i) => ({
          station: from + d,
          vertical:
            Math.round(OUTFALL.bore * (1 - habit.deflection - [0, 0.003, -0.002, 0.001][i]!) * 1000) / 1000,
        })),
      },
    })
    const sides = (thickness: number, more: object = {}) =>
      lift('both', thickness, { passes: habit.passes, raised: true, ...more })
    const before: Answer[] = [
      ...looked,
      read('trench-width', 1.78),
      choose('support', 'box'),
      yes('box-outside'),
      read('box-bottom', 0.4),
      yes('box-cable'),
      read('bottom-level', Math.round((invert - 0.06 - 0.15 - 0.02) * 1000) / 1000),
      yes('bottom-clean'),
      yes('stone-layer'),
      yes('native-whole'),
      choose('bed-material', 'granular'),
      read('bed-thickness', 0.16),
      yes('bed-compacted'),
      yes('bell-holes'),
      levels(9.84, pipes),
      read('offset', 0.006, -0.009, 0.004),
      read('strut-length', 0.901),
    ]
    const rise = habit.thickness * 0.85
    // The struts come out as soon as the sides stand high enough to hold the pipe.
    const first = atWork ? 3 : Math.ceil((0.7 * OUTFALL.od) / rise - 1e-9)
    const toWindow = Array.from({ length: first }, () => sides(habit.thickness))
    const upTo = Math.ceil((1.32 - first * rise) / rise - 1e-9)
    const rest = Array.from({ length: upTo }, (_v, i) =>
      sides(habit.thickness, i === upTo - 1 ? { plant: 'plate' } : {}),
    )
    const place: Place = {
      ...{
        line,
        crew: 2,
        name: `SO reach ${String(n + 1).padStart(2, '0')}`,
        from,
        to: from + OUTFALL.length,
      },
      ...{ system: 'embed-flexible', facts, who: 'sorrel' },
      at: atWork ? g.now - 3 * HOUR : g.now - (habits.length - n + 1) * DAY - 7 * HOUR,
    }
    await layReach(g, place, (id) => [
      ...before,
      ...toWindow,
      ...(atWork
        ? [lift('left', 0.25, { moisture: 'damp', raised: true })]
        : [
            yes('struts-out'),
            ...rest,
            yes('jetting'),
            test(id, 0),
            test(id, 1),
            yes('filled'),
            yes('end-closed'),
            survey(),
          ]),
    ])
  }
}

/** Concrete pipe of the sewer: levels booked, a back-fall found in one, a failed density and its retest. */
async function laySewer(g: Ground, line: string): Promise<void> {
  const facts = (invert: number): Facts => ({
    ...{ 'pipe.od': 0.76, 'pipe.wall': 0.08, 'site.depth': 1.15, 'site.unsupported': 1.2, 'site.bed': 0.1 },
    ...{ 'site.invert': invert, 'site.benchmark': 13.61, 'site.run': 120, 'line.gravity': true },
    ...{ 'site.cover': 0.6, 'site.road': true, 'site.tests': 1 },
  })
  for (let n = 0; n < 4; n++) {
    const from = 400 + n * 20
    const invert = Math.round((8.9 - n * 0.2) * 1000) / 1000
    const off = n === 3 ? [2, -4, 17, 1, 0, 3, -2, 1] : [1, 3, -2, 0, 4, 2, -3, 1]
    const pipes = off.map((mm, i) => ({
      station: from + i * 2.5,
      design: Math.round((invert - i * 0.01) * 1000) / 1000,
      off: (n === 3 ? mm : mm / 2) / 1000,
    }))
    const density = (compaction: number, more: object = {}): Answer => ({
      step: 'density',
      kind: 'density',
      payload: {
        ...{ side: 'right', station: from + 7.5, wetDensity: Math.round(compaction * 1990 * 1.08) },
        ...{ moisture: 0.08, maximum: 1990, method: 'sand', ...more },
      },
    })
    const place: Place = {
      ...{ line, crew: 2, name: `GS reach ${String(n + 1).padStart(2, '0')}`, from, to: from + 20 },
      ...{ system: 'embed-rigid', facts: facts(invert), who: 'sorrel', at: g.now - (5 - n) * DAY - 5 * HOUR },
    }
    await layReach(g, place, () => [
      ...looked,
      read('trench-width', 1.42),
      choose('support', 'none'),
      read('bottom-level', Math.round((invert - 0.08 - 0.1 - 0.01) * 1000) / 1000),
      yes('bottom-clean'),
      yes('overdig-filled'),
      choose('bed-material', 'granular'),
      read('bed-thickness', 0.11),
      yes('bell-holes'),
      levels(13.61, pipes),
      ...(n === 3
        ? []
        : [
            ...[0.28, 0.28, 0.28, 0.28, 0.28].map((t) => lift('both', t, { material: 'sand' })),
            choose('settled', 'compacted'),
            density(n === 1 ? 0.929 : 0.972),
            ...(n === 1 ? [] : [read('cover', 0.75), yes('end-closed')]),
          ]),
    ])
  }
}

/** Casings under the track on the crossing: one grouted up to the last tenth of what the pipe bears, one ready for it. */
async function layCasings(g: Ground, line: string): Promise<void> {
  const { procedure } = loadProcedure(procedureSource('embed-casing'))
  const facts: Facts = {
    ...(exampleFacts(procedure) as Facts),
    ...{ 'casing.bore': 0.9, 'pipe.od': 0.635, 'site.length': 24 },
  }
  const room = (Math.PI / 4) * (0.9 ** 2 - 0.635 ** 2) * 24
  const rows = Array.from({ length: 12 }, (_v, i) => ({
    t: i * 300,
    pressure: 18e3 + i * 3.1e3,
    volume: Math.round(((room * 1.02 * i) / 11) * 100) / 100,
  }))
  const held = (step: string): Answer[] => [
    yes(step),
    { step, kind: 'request', payload: {} },
    { step, kind: 'release', payload: {}, by: 'ines' },
  ]
  const ready: Answer[] = [
    ...held('air'),
    yes('casing-clean'),
    choose('spacers', 'right'),
    ...['joints-accepted', 'restrained', 'bulkheads'].map(yes),
    { step: 'grout-density', kind: 'reading', payload: { values: [1.75], typed: ['1.75'] } },
    ...held('before-grout'),
  ]
  const place = { line, crew: 3, system: 'embed-casing', facts, who: 'milo' }
  await layReach(
    g,
    { ...place, name: 'RC casing 1', from: 148, to: 172, at: g.now - 2 * DAY - 6 * HOUR },
    () => [
      ...ready,
      { step: 'grout', kind: 'grout', payload: { rows }, after: HOUR },
      yes('grout'),
      {
        step: 'volume',
        kind: 'reading',
        payload: { values: [room * 1.02], typed: [(room * 1.02).toFixed(2)] },
      },
      yes('inside'),
    ],
  )
  await layReach(g, { ...place, name: 'RC casing 2', from: 112, to: 136, at: g.now - 3 * HOUR }, () => ready)
}

/** What the laboratory found of the gravel and the sand. */
/** What the crews of the reaches run beside and over the pipe. */
const layPlants = (g: Ground): Promise<void> =>
  insertPlants(
    g.db,
    g.project.id,
    (
      [
        [2, 'Rammer 65 kg', 'hand', 65, null],
        [2, 'Plate 90 kg', 'plate', 90, null],
        [2, 'Twin roller', 'roller', 720, null],
        [2, 'Wheeled loader', 'vehicle', 9800, 31],
        [3, 'Rammer 70 kg', 'hand', 70, null],
        [3, 'Plate 140 kg', 'plate', 140, null],
        [3, 'Tipper lorry', 'vehicle', 18_000, 50],
      ] as const
    ).map(([crew, name, kind, mass, kN]) => ({
      ...{ id: g.random.id(g.now - 30 * DAY), crew: g.crews[crew]!, name, kind, mass },
      wheelLoad: kN === null ? null : kN * 1000,
    })),
  )

async function layCurves(g: Ground): Promise<void> {
  const points = (list: [number, number][]) =>
    list.map(([percent, dryDensity]) => ({ moisture: percent / 100, dryDensity }))
  await insertCurves(g.db, g.project.id, [
    {
      ...{ id: g.random.id(g.now - 30 * DAY), name: 'Gravel, north pit', material: 'Gravel' },
      ...{ source: 'North pit, second face', dated: '2026-02-03', specificGravity: 2.66 },
      points: points([
        [3.9, 1998],
        [5.1, 2041],
        [6.2, 2061],
        [7.4, 2047],
        [8.6, 2003],
      ]),
    },
    {
      ...{ id: g.random.id(g.now - 30 * DAY), name: 'Sand, shore', material: 'Sand' },
      ...{ source: 'Washed, shore store', dated: '2026-02-17', specificGravity: 2.65 },
      points: points([
        [5.2, 1921],
        [7.1, 1972],
        [9, 1991],
        [11.2, 1969],
        [13, 1912],
      ]),
    },
  ])
}

/** Embedment of the other lines. */
export async function layEmbedment(g: Ground, lines: Record<string, string>): Promise<void> {
  await layPlants(g)
  await layCurves(g)
  await layOutfall(g, lines.SO!)
  await laySewer(g, lines.GS!)
  await layCasings(g, lines.RC!)
}
