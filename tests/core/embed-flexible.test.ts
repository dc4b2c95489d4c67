import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { judge } from '../../core/judgement/judge'
import { exampleFacts } from '../../core/procedure/facts'
import { loadProcedure, writeProcedure } from '../../core/procedure/load'
import type { Entry } from '../../core/record/entry'
import { entry, read, T0, yes } from './entries'

const source = readFileSync(new URL('../../procedures/embed-flexible.yaml', import.meta.url), 'utf8')
const compiled = loadProcedure(source)
const no = (step: string, minute: number) => entry(step, 'confirmation', { answer: 'no' }, minute)
const choose = (step: string, choice: string, minute: number) => entry(step, 'choice', { choice }, minute)
const lift = (thickness: number, minute: number, more: object = {}) =>
  entry(
    'lifts',
    'lift',
    {
      side: 'both',
      thickness,
      passes: 4,
      plant: 'hand',
      material: 'sand',
      moisture: 'damp',
      haunched: true,
      ...more,
    },
    minute,
  )
const density = (compaction: number, minute: number) =>
  entry(
    'density',
    'density',
    {
      side: 'left',
      station: 4,
      wetDensity: compaction * 1900 * 1.08,
      moisture: 0.08,
      maximum: 1900,
      method: 'nuclear',
    },
    minute,
  )

/** A reach of 315 mm pipe, 1.1 m deep, filled to 300 mm over the crown. */
const conforming = (): Entry[] => [
  yes('trench-looked', 1),
  yes('services', 2),
  read('trench-width', [0.8], 3),
  choose('support', 'none', 4),
  yes('spoil', 5),
  yes('way-out', 6),
  yes('water', 7),
  yes('bottom-clean', 8),
  yes('native-whole', 9),
  choose('bed-material', 'granular', 10),
  read('bed-thickness', [0.12], 11),
  yes('bell-holes', 12),
  lift(0.2, 20),
  lift(0.2, 30),
  lift(0.2, 40),
  lift(0.25, 50, { plant: 'plate' }),
  yes('jetting', 60),
  density(0.95, 70),
  yes('end-closed', 80),
]
const judged = (entries: Entry[], facts: Record<string, number | boolean> = {}) =>
  judge(compiled, { ...exampleFacts(compiled.procedure), ...facts }, entries, T0 + 86_400_000)
/** The conforming record with what was recorded at a step replaced. */
const instead = (...other: Entry[]) => [
  ...conforming().filter((e) => !other.some((o) => o.step === e.step)),
  ...other,
]

it('reads and writes as the same document', () =>
  expect(loadProcedure(writeProcedure(compiled.procedure)).procedure).toEqual(compiled.procedure))

it('a conforming record is accepted, every step of it', () => {
  const { state, steps, drafts } = judged(conforming())
  expect(steps.filter((s) => s.state !== 'accepted').map((s) => [s.key, s.state, s.sentence])).toEqual([])
  expect([state, drafts]).toEqual(['accepted', []])
})

describe('rejected there for that reason', () => {
  const cases: [
    step: string,
    why: string,
    entries: Entry[],
    facts: Record<string, number | boolean>,
    says: RegExp,
  ][] = [
    ...(
      [
        'trench-looked',
        'services',
        'spoil',
        'way-out',
        'water',
        'bottom-clean',
        'native-whole',
        'bell-holes',
      ] as const
    ).map((step, i): (typeof cases)[number] => [step, 'no', [no(step, 1 + i)], {}, /Answered no/]),
    ['jetting', 'no', [no('jetting', 60)], {}, /Answered no/],
    ['end-closed', 'no', [no('end-closed', 80)], {}, /Answered no/],
    [
      'trench-width',
      '690 mm beside 315 mm of pipe',
      [read('trench-width', [0.69], 3)],
      {},
      /at least 715 mm/,
    ],
    [
      'trench-width',
      '1150 mm beside 600 mm of pipe',
      [read('trench-width', [1.15], 3)],
      { 'pipe.od': 0.6 },
      /at least 1200 mm/,
    ],
    ['support', 'none, at 1.4 m', [], { 'site.depth': 1.4 }, /Deeper than is allowed/],
    ['bed-material', 'stony', [choose('bed-material', 'stony', 10)], {}, /press into the pipe/],
    ['bed-material', 'native', [choose('bed-material', 'native', 10)], {}, /not graded/],
    ['bed-thickness', '90 mm', [read('bed-thickness', [0.09], 11)], {}, /at least 100 mm/],
    ['lifts', 'too thick', [lift(0.35, 20)], {}, /at most 300 mm/],
    ['lifts', 'few passes', [lift(0.2, 20, { passes: 2 })], {}, /at least 3/],
    ['lifts', 'frozen', [lift(0.2, 20, { material: 'frozen' })], {}, /settles when it thaws/],
    ['lifts', 'wet', [lift(0.2, 20, { moisture: 'wet' })], {}, /Wet soil/],
    ['lifts', 'no haunch', [lift(0.2, 20, { haunched: false })], {}, /haunch/],
    ['lifts', 'a vehicle beside the pipe', [lift(0.2, 20, { plant: 'vehicle' })], {}, /No vehicle/],
    [
      'lifts',
      'two lifts ahead',
      [lift(0.2, 20, { side: 'left' }), lift(0.2, 30, { side: 'left' })],
      {},
      /pushed aside/,
    ],
    ['density', '85 %', [density(0.85, 70)], {}, /at least 90 %/],
    ['density', '92 % under a road', [density(0.92, 70)], { 'site.road': true }, /at least 95 %/],
  ]
  it.each(cases)('%s: %s', (step, _why, entries, facts, says) => {
    const { steps, state, drafts } = judged(instead(...entries), facts)
    const at = steps.find((s) => s.key === step)!
    expect([at.state, at.sentence]).toEqual(['rejected', expect.stringMatching(says)])
    expect(state).toBe('rejected')
    expect(drafts.map((d) => d.step)).toContain(step)
  })
})

describe('where practice differs', () => {
  const rock = [0, 1, 2, 3].map((i) =>
    lift(0.22, 20 + 10 * i, { material: 'crushed-rock', moisture: 'dry', plant: 'none', passes: 0 }),
  )
  it.each([
    ['compacted', 'rejected'],
    ['sliced', 'accepted'],
  ])('crushed rock sliced in by shovel, where the project says %s, is %s', (school, state) => {
    const { steps } = judge(compiled, exampleFacts(compiled.procedure), instead(...rock), T0 + 86_400_000, {
      schools: { rock: school },
    })
    expect(steps.find((s) => s.key === 'lifts')!.state).toBe(state)
  })
})

it('the fill does not count before the bed is measured', () => {
  const early = conforming().filter((e) => e.step !== 'bed-thickness')
  expect(judged(early).steps.find((s) => s.key === 'lifts')!.state).toBe('blocked')
})
