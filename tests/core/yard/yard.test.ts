import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { judgeItem, type ItemLimit } from '../../../core/delivery/inspection'
import { planLift, type LiftRequest } from '../../../core/yard/lift'
import { planStack, type StackRequest } from '../../../core/yard/stack'
import { judgeRound, questionsFor, type StoredKind } from '../../../core/yard/storage'

const stack = (more: Partial<StackRequest> = {}): StackRequest => ({
  material: 'concrete',
  nominal: 0.4,
  od: 0.5,
  length: 2.5,
  count: 10,
  mass: 400,
  width: null,
  ...more,
})

describe('a stack', () => {
  it.each([
    [0.3, 4],
    [0.4, 4],
    [0.5, 3],
    [0.6, 3],
    [0.75, 1],
  ])('of concrete DN %f m has at most %i layers', (nominal, layers) =>
    expect(planStack(stack({ nominal, count: 60 })).layers).toBe(layers),
  )
  it('ten of DN 400 lie four, three, two, one', () =>
    expect(planStack(stack()).perLayer).toEqual([4, 3, 2, 1]))
  it('plastic stays under 1.5 m', () => {
    fc.assert(
      fc.property(fc.integer({ min: 63, max: 1200 }), fc.integer({ min: 1, max: 300 }), (mm, count) => {
        const plan = planStack(stack({ material: 'plastic', nominal: mm / 1000, od: mm / 1000, count }))
        expect(plan.height).toBeLessThanOrEqual(Math.max(1.5, mm / 1000) + 1e-9)
      }),
    )
  })
  it('every pipe lies on the ground or in a valley, none inside another; sockets of a layer all one way', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 60 }), (count) => {
        const { pipes, left } = planStack(stack({ count }))
        expect(pipes.length + left).toBe(count)
        for (const [i, p] of pipes.entries()) {
          for (const q of pipes.slice(i + 1))
            expect(Math.hypot(p.x - q.x, p.y - q.y)).toBeGreaterThanOrEqual(0.5 - 1e-9)
          if (p.layer > 0)
            expect(
              pipes.filter(
                (q) => q.layer === p.layer - 1 && Math.abs(Math.hypot(p.x - q.x, p.y - q.y) - 0.5) < 1e-9,
              ),
            ).toHaveLength(2)
          expect(p.socket).toBe(p.layer % 2 === 0 ? 'left' : 'right')
        }
      }),
    )
  })
  it('leaves room for the lifting device between the pipes of a layer, and each lies on the two under it', () => {
    const plan = planStack(stack({ count: 10, gap: 0.05 }))
    const od = stack().od
    const [first, second] = plan.pipes as [(typeof plan.pipes)[number], (typeof plan.pipes)[number]]
    expect(second.x - first.x).toBeCloseTo(od + 0.05, 9)
    const above = plan.pipes.find((p) => p.layer === 1)!
    expect(Math.hypot(above.x - first.x, above.y - first.y)).toBeCloseTo(od, 9)
    expect(plan.width).toBeCloseTo(4 * od + 3 * 0.05, 9)
    expect(() => planStack(stack({ gap: od }))).toThrow(expect.objectContaining({ field: 'gap' }))
  })
  it('what does not go on narrow ground is said', () =>
    expect(planStack(stack({ width: 1.6, count: 10 }))).toMatchObject({ perLayer: [3, 2, 1], left: 4 }))
  it.each([
    ['od', { od: 0 }],
    ['length', { length: -1 }],
    ['count', { count: 1.5 }],
    ['width', { width: 0.1 }],
  ])('a bad %s is named', (field, more) =>
    expect(() => planStack(stack(more))).toThrow(expect.objectContaining({ field })),
  )
})

const lift = (more: Partial<LiftRequest> = {}): LiftRequest => ({
  material: 'concrete',
  method: 'chain',
  mass: 1000,
  size: null,
  count: 1,
  legs: 2,
  angle: 0,
  cranePlate: 2000,
  slingTag: 1000,
  ...more,
})

describe('a lift', () => {
  it('two legs hanging straight carry half each', () =>
    expect(planLift(lift())).toMatchObject({
      total: 1000,
      perLeg: (1000 * 9.80665) / 2,
      craneShare: 0.5,
      refused: [],
    }))
  it('at 60° each leg carries the whole', () =>
    expect(planLift(lift({ angle: 60 })).perLeg).toBeCloseTo(9806.65, 6))
  it('mass from size: a 12 m pipe of 315 mm SDR 11', () => {
    const plan = planLift(
      lift({
        material: 'polyethylene',
        method: 'textile',
        mass: null,
        size: { od: 0.315, id: 0.2578, length: 12, density: 958 },
      }),
    )
    expect(plan.each).toBeCloseTo((Math.PI / 4) * (0.315 ** 2 - 0.2578 ** 2) * 12 * 958, 6)
  })
  it.each([
    [lift({ material: 'polyethylene', method: 'chain' }), 'nylon slings only'],
    [lift({ material: 'polyethylene', method: 'forks', count: 2 }), 'never a bundle'],
    [lift({ method: 'hooks' }), 'break the joint faces'],
    [lift({ count: 3 }), 'over the plate'],
    [lift({ angle: 61 }), 'over 60°'],
    [lift({ method: 'plug', count: 2 }), 'one pipe at a time'],
    [lift({ slingTag: 400 }), 'its tag allows'],
  ])('is refused with the reason %#', (request, why) =>
    expect(planLift(request).refused.join(' ')).toContain(why),
  )
  it('a plate or tag not read is asked for', () =>
    expect(planLift(lift({ cranePlate: null, slingTag: null })).open).toHaveLength(2))
  it('three legs count as two', () =>
    expect(planLift(lift({ legs: 3, angle: 30 })).perLeg).toBe(planLift(lift({ legs: 2, angle: 30 })).perLeg))
  it.each([
    ['count', { count: 0 }],
    ['mass', { mass: 0 }],
    ['mass', { mass: null }],
  ])('a bad %s is named', (field, more) =>
    expect(() => planLift(lift(more))).toThrow(expect.objectContaining({ field })),
  )
  it('always says the cautions', () =>
    expect(planLift(lift()).cautions.join(' ')).toMatch(/nobody under a load.*competent person/i))
})

describe('a storage round', () => {
  const yes = (kind: StoredKind) => Object.fromEntries(questionsFor(kind).map((q) => [q.key, 'yes' as const]))
  it.each(['plastic pipe', 'rigid pipe', 'fittings', 'gaskets', 'compounds'] as const)(
    'finds nothing at %s when all is well, and each no',
    (kind) => {
      const range = { min: null, max: null }
      expect(judgeRound(kind, range, { answers: yes(kind), temperature: null, remark: null })).toEqual([])
      for (const q of questionsFor(kind))
        expect(
          judgeRound(kind, range, {
            answers: { ...yes(kind), [q.key]: 'no' },
            temperature: null,
            remark: null,
          }).map((f) => f.key),
        ).toEqual([q.key])
    },
  )
  it.each([
    [null, 'not read'],
    [4, 'below'],
    [26, 'over'],
    [15, ''],
  ])('temperature %s in 5 to 25 °C', (temperature, why) => {
    const found = judgeRound(
      'compounds',
      { min: 5, max: 25 },
      { answers: yes('compounds'), temperature, remark: null },
    )
    expect(found.map((f) => f.sentence).join()).toContain(why)
    expect(found).toHaveLength(why ? 1 : 0)
  })
  it('what was not looked at is a finding', () =>
    expect(
      judgeRound('gaskets', { min: null, max: null }, { answers: {}, temperature: null, remark: null }),
    ).toHaveLength(questionsFor('gaskets').length))
})

describe('measuring an item', () => {
  const limits: ItemLimit[] = [
    {
      key: 'wall',
      title: 'Wall',
      kind: 'measure',
      dimension: 'length',
      unit: 'mm',
      readings: 4,
      of: 'each',
      min: 0.0286,
      max: 0.0316,
      where: '',
    },
    {
      key: 'round',
      title: 'Out of round',
      kind: 'measure',
      dimension: 'length',
      unit: 'mm',
      readings: 2,
      of: 'range',
      min: null,
      max: 0.006,
      where: '',
    },
    { key: 'profile', title: 'Joint profile', kind: 'go', where: '' },
  ]
  const good = { wall: [0.029, 0.0295, 0.03, 0.03], round: [0.315, 0.318], profile: 'go' as const }
  it.each([
    ['accepted', good, {}],
    ['rejected', { ...good, wall: [0.029, 0.0285, 0.03, 0.03] }, {}],
    ['rejected', { ...good, profile: 'no-go' as const }, {}],
    ['rejected', { ...good, round: [0.315, 0.322] }, {}],
    ['too-close', good, { wall: 0.0005 }],
    ['not-measured', { wall: [0.029, 0.029], round: good.round, profile: 'go' as const }, {}],
    ['not-measured', {}, {}],
  ] as const)('%s', (state, readings, uncertainty) =>
    expect(judgeItem(limits, readings as never, uncertainty).state).toBe(state),
  )
  it('a range is off by more than one reading is', () =>
    expect(judgeItem(limits, good, { round: 0.001 }).findings[1]!.uncertainty).toBeCloseTo(
      Math.SQRT2 * 0.001,
      12,
    ))
  it('a bad reading counts although others are missing', () =>
    expect(judgeItem(limits, { wall: [0.02, 0.03, 0.03, 0.03] }).state).toBe('rejected'))
  it('what is missing is named', () =>
    expect(judgeItem(limits, { wall: good.wall }).missing).toEqual(['Out of round', 'Joint profile']))
})
