import { describe, expect, it } from 'vitest'
import { planLift, type LiftRequest } from '../../../core/yard/lift'
import { planStack, type StackRequest } from '../../../core/yard/stack'
import { judgeRound, questionsFor, storageQuestions } from '../../../core/yard/storage'
import { refused } from '../refusal'

/** The ends of what a stack, a lift and a place in the yard may be, and what each is told. */
const stack = (more: Partial<StackRequest> = {}) =>
  planStack({
    ...{ material: 'concrete', nominal: 0.4, od: 0.5, length: 2.5, count: 10, mass: 400, width: null },
    ...more,
  })

describe('a stack', () => {
  it.each([
    [{ od: 6 }, null],
    [{ od: 6.001 }, 'od'],
    [{ od: NaN }, 'od'],
    [{ length: 40 }, null],
    [{ length: 40.1 }, 'length'],
    [{ length: 0 }, 'length'],
    [{ count: 2000 }, null],
    [{ count: 2001 }, 'count'],
    [{ count: 1 }, null],
    [{ count: 0 }, 'count'],
    [{ width: 0.5 }, null],
    [{ width: 0.499 }, 'width'],
    [{ gap: 0.25 }, null],
    [{ gap: 0.251 }, 'gap'],
    [{ gap: -0.001 }, 'gap'],
  ])('of %j is refused for %s', (more, field) =>
    field === null
      ? expect(() => stack(more)).not.toThrow()
      : expect(refused(() => stack(more))).toMatchObject({ code: 'bad-stack', field }),
  )
  it.each([
    [8, [1.6, 6.4]],
    [8.1, [1.62, 4.05, 6.48]],
    [2.5, [0.5, 2]],
  ])('of lengths of %f m lies on timbers at %j', (length, timbers) => {
    expect(stack({ length }).timbers).toHaveLength(timbers.length)
    for (const [i, t] of timbers.entries()) expect(stack({ length }).timbers[i]).toBeCloseTo(t, 9)
  })
  it('weighs what lies on it, and nobody knows what where no mass is', () => {
    expect(stack().mass).toBe(4000)
    expect(stack({ width: 1.6 })).toMatchObject({ left: 4, mass: 2400 })
    expect(stack({ mass: null }).mass).toBeNull()
  })
  it('is laid out from the middle of its base, each layer in the valleys of the one under it', () => {
    const { pipes, rise, height, width } = stack({ count: 3 })
    const root = Math.sqrt(0.75) * 0.5
    expect(rise).toBeCloseTo(root, 12)
    expect(pipes.map((p) => [p.x, p.layer])).toEqual([
      [-0.25, 0],
      [0.25, 0],
      [0, 1],
    ])
    expect(pipes[0]!.y).toBeCloseTo(0.25, 12)
    expect(pipes[2]!.y).toBeCloseTo(0.25 + root, 12)
    expect([height, width]).toEqual([expect.closeTo(0.5 + root, 12), 1])
  })
  it('on narrow ground has as many beside each other as fit with the room between them', () => {
    expect(stack({ width: 1.6, gap: 0.05, count: 30 }).perLayer[0]).toBe(3)
    expect(stack({ width: 1.59, gap: 0.05, count: 30 }).perLayer[0]).toBe(2)
    expect(stack({ width: 1.5, count: 30 }).perLayer[0]).toBe(3)
  })
  it('says its rule, its sum and its height', () => {
    const { working } = stack({ count: 7, width: 1.5 })
    expect(working[0]).toBe('concrete, DN 400: at most 4 layers')
    expect(working[1]).toBe('3 + 2 + 1 = 6 lengths')
    expect(working[2]).toContain('height = 0.500 + 2 · 0.433 = 1.37 m')
    expect(stack({ nominal: 0.75, od: 0.9 }).working[0]).toBe('concrete, DN 750: at most 1 layer')
  })
  it('says the cautions of its material', () => {
    expect(stack({ material: 'plastic' }).cautions.join(' ')).toMatch(
      /nobody on the stack.*Chocks.*Out of the sun/,
    )
    expect(stack().cautions.join(' ')).toMatch(/nobody on the stack.*Chocks.*from the top/)
    expect(stack().cautions.join(' ')).not.toMatch(/sun/)
  })
})

const lift = (more: Partial<LiftRequest> = {}) =>
  planLift({
    ...{ material: 'concrete', method: 'chain', mass: 1000, size: null, count: 1, legs: 2 },
    ...{ angle: 0, cranePlate: 2000, slingTag: 1000, ...more },
  })

describe('a lift', () => {
  it.each([
    [200, null],
    [201, 'count'],
    [1.5, 'count'],
  ])('of %f lengths is refused for %s', (count, field) =>
    field === null
      ? expect(lift({ count }).total).toBe(200_000)
      : expect(refused(() => lift({ count }))).toMatchObject({ code: 'bad-lift', field }),
  )
  it.each([
    [{}, 0],
    [{ cranePlate: 1000 }, 0],
    [{ cranePlate: 999 }, 1],
    [{ slingTag: 500 }, 0],
    [{ slingTag: 499 }, 1],
    [{ angle: 60 }, 0],
    [{ angle: 60.1 }, 1],
    [{ method: 'plug' }, 0],
    [{ method: 'forks', count: 2 }, 0],
    [{ material: 'polyethylene', method: 'forks' }, 0],
    [{ material: 'polyethylene', method: 'forks', count: 2 }, 1],
    [{ material: 'polyethylene', method: 'textile', count: 2 }, 0],
    [{ material: 'other', method: 'plug' }, 1],
  ] as const)('with %j has %i reasons against it', (more, reasons) =>
    expect(lift(more as Partial<LiftRequest>).refused).toHaveLength(reasons),
  )
  it('says what each leg carries, and what its tag allows', () =>
    expect(lift({ slingTag: 400 }).refused).toEqual(['Each leg carries 500 kg, its tag allows 400 kg.']))
  it('asks for what nobody has read, and works nothing out of it', () => {
    expect(lift()).toMatchObject({ open: [], craneShare: 0.5, slingShare: 0.5 })
    const { open, craneShare, slingShare, refused: against } = lift({ cranePlate: null, slingTag: null })
    expect([open.length, craneShare, slingShare, against]).toEqual([2, null, null, []])
    // Legs that stand too flat carry nobody knows what.
    expect(lift({ angle: 70 })).toMatchObject({ open: [], slingShare: null })
  })
  it.each([
    [{}, [/plug locked/], [/Nylon|Forks/]],
    [{ material: 'polyethylene', method: 'textile' }, [/Nylon/], [/plug|Forks/]],
    [{ material: 'polyethylene', method: 'forks' }, [/Nylon/, /Forks without impact/], [/plug/]],
    [{ material: 'other', method: 'forks' }, [/nobody under a load/], [/Nylon|plug|Forks/]],
  ] as const)('with %j is told its cautions', (more, said, unsaid) => {
    const words = lift(more as Partial<LiftRequest>).cautions.join(' ')
    for (const w of said) expect(words).toMatch(w)
    for (const w of unsaid) expect(words).not.toMatch(w)
  })
})

describe('a place in the yard', () => {
  const round = (range: { min: number | null; max: number | null }, temperature: number | null) => {
    const answers = Object.fromEntries(questionsFor('rigid pipe').map((q) => [q.key, 'yes' as const]))
    return judgeRound('rigid pipe', range, { answers, temperature, remark: null }).map((f) => f.sentence)
  }
  it.each([
    [{ min: 5, max: 25 }, 5, null],
    [{ min: 5, max: 25 }, 25, null],
    [{ min: 5, max: null }, 90, null],
    [{ min: 5, max: null }, 4.9, /below the 5 °C/],
    [{ min: null, max: 25 }, -40, null],
    [{ min: null, max: 25 }, 25.1, /over the 25 °C/],
    [{ min: 0, max: null }, null, /not read/],
    [{ min: null, max: 0 }, null, /not read/],
    [{ min: null, max: null }, null, null],
    [{ min: null, max: null }, 90, null],
  ])('for %j at %s °C', (range, temperature, words) => {
    const found = round(range, temperature)
    expect(found).toHaveLength(words ? 1 : 0)
    if (words) expect(found[0]).toMatch(words)
  })
  it('is asked what matters to what lies there', () => {
    expect(questionsFor('gaskets').map((q) => q.key)).toEqual(['sun', 'relaxed', 'marked'])
    expect(questionsFor('compounds').map((q) => q.key)).toEqual(['sun', 'closed', 'marked'])
    expect(storageQuestions.every((q) => q.kinds.length > 0)).toBe(true)
  })
  it('says a no with its reason, and what was not looked at, as sentences', () => {
    const nothing = { min: null, max: null }
    const answers = { sun: 'no' as const }
    const found = judgeRound('gaskets', nothing, { answers, temperature: null, remark: null })
    expect(found.map((f) => f.sentence)).toEqual([
      'Out of the sun: no. Sun hardens rubber and makes plastic brittle and bent.',
      'Seals flat, not hung or bent, away from oil and motors: not looked at.',
      'Quarantined items apart and marked: not looked at.',
    ])
  })
})
