import { describe, expect, it } from 'vitest'
import { witnessOf } from '../../../core/judgement/witness'
import { confirmableRows, readyList, type ReadyFacts } from '../../../core/pressure/ready'
import type { Entry } from '../../../core/record/entry'

/** What must be so before a section is put under pressure: each row, what keeps it open, and where that is. */
const said = (...rows: string[]) => Object.fromEntries(rows.map((r) => [r, { by: 'x', photo: null }]))
const facts = (more: Partial<ReadyFacts> = {}): ReadyFacts => ({
  now: 1000,
  joints: [{ id: 'j', number: 'RM-1', ready: true, gated: true, at: 1000, heldSteps: 0 }],
  ncrs: [],
  reaches: [],
  gauge: { id: 'g', name: 'P-7', max: 25e5, calibratedUntil: 2000 },
  testPressure: 12.5e5,
  sight: null,
  plan: { highOk: true, lowOk: true },
  material: 'polyethylene',
  methodMaterial: 'polyethylene',
  methodReason: null,
  confirmed: said('restraint', 'filled', 'sensor', 'exclusion', 'witness'),
  witness: witnessOf([]),
  ...more,
})
const open = (more: Partial<ReadyFacts>) => readyList(facts(more)).filter((r) => r.state === 'open')
const joint = (number: string, more: Partial<ReadyFacts['joints'][number]> = {}) => ({
  ...{ id: `id ${number}`, number, ready: true, gated: true, at: 1000, heldSteps: 0, ...more },
})
const rowOf = (key: string, more: Partial<ReadyFacts> = {}) =>
  readyList(facts(more)).find((r) => r.key === key)!

it.each([
  ['is fine enough', { doubt: 2, allowed: 9, unit: 'L' as const }, 0],
  ['cannot tell what is allowed', { doubt: 9.2, allowed: 9, unit: 'L' as const }, 1],
])('a gauge that %s', (_what, sight, rows) => expect(open({ sight })).toHaveLength(rows))
it('is ready when every row is met', () => expect(open({})).toEqual([]))
it('a joint whose procedure has no clock before the test keeps none back', () =>
  expect(
    open({ joints: [{ id: 'j', number: 'HO-1', ready: true, gated: false, at: null, heldSteps: 0 }] }),
  ).toEqual([]))
it('its rows come in their order, those that only a person can say at the end', () => {
  const rows = readyList(facts({ sight: { doubt: 2, allowed: 9, unit: 'L' } }))
  expect(rows.map((r) => r.key)).toEqual([
    ...['joints', 'clocks', 'holds', 'ncrs', 'embedment', 'profile', 'method', 'gauge', 'sight'],
    ...confirmableRows,
  ])
  expect(confirmableRows).toEqual(['restraint', 'filled', 'sensor', 'exclusion', 'witness'])
  expect(rows.filter((r) => r.confirmable).map((r) => r.key)).toEqual(confirmableRows)
  expect(rows.every((r) => r.title !== '')).toBe(true)
})

describe('a row that is met', () => {
  it.each<[string, Partial<ReadyFacts>, string]>([
    ['joints', {}, '1 joint accepted.'],
    ['joints', { joints: [joint('RM-1'), joint('RM-2')] }, '2 joints accepted.'],
    ['clocks', {}, 'No time holds the test back.'],
    ['holds', {}, 'None is held.'],
    ['ncrs', {}, 'None is open.'],
    ['ncrs', { ncrs: [{ id: 'n', number: 'NCR-1', open: false, conceded: false }] }, 'None is open.'],
    ['ncrs', { ncrs: [{ id: 'n', number: 'NCR-1', open: true, conceded: true }] }, 'None is open.'],
    ['embedment', {}, 'No reach is laid out here.'],
    ['embedment', { reaches: [{ id: 'r', name: 'R 1', state: 'accepted' }] }, 'Complete.'],
    ['profile', {}, 'Highest point reached, lowest within its class.'],
    ['method', {}, 'A method for polyethylene.'],
    ['gauge', {}, 'P-7.'],
    ['gauge', { gauge: { id: 'g', name: 'P-7', max: 25e5, calibratedUntil: 1000 } }, 'P-7.'],
    ['sight', { sight: { doubt: 2, allowed: 9, unit: 'L' } }, 'It leaves 2 L in doubt, 9 L are allowed.'],
    ['filled', {}, 'Confirmed by x.'],
  ])('%s %j: %s', (key, more, sentence) => expect(rowOf(key, more)).toMatchObject({ state: 'met', sentence }))
  it('names what it stands on only where there is something', () => {
    for (const key of ['joints', 'clocks', 'holds', 'ncrs', 'embedment', 'profile', 'method', 'filled'])
      expect([key, rowOf(key).evidence]).toEqual([key, []])
    expect(rowOf('gauge').evidence).toEqual([{ type: 'instrument', id: 'g', label: 'P-7' }])
    expect(rowOf('witness').evidence).toEqual([])
  })
})

describe('a row that is open', () => {
  const late = (number: string, at: number | null) => joint(number, { at })
  it.each<[string, Partial<ReadyFacts>, string, string]>([
    ['joints', { joints: [] }, 'There is no joint in this section.', ''],
    ['joints', { joints: [joint('A'), joint('B', { ready: false })] }, 'Not accepted: B.', 'joint id B B'],
    ['clocks', { joints: [joint('A'), late('B', 1001)] }, 'Time still runs at: B.', 'joint id B B'],
    ['clocks', { joints: [late('A', null)] }, 'Not known yet when: A.', 'joint id A A'],
    // Of those that run the last to end comes first; those that nobody knows are not said beside them.
    [
      'clocks',
      { joints: [late('A', null), late('B', 1001), late('C', 2000)] },
      'Time still runs at: C, B.',
      'joint id C C, joint id B B',
    ],
    ['holds', { joints: [joint('A', { heldSteps: 2 }), joint('B')] }, 'Held: A.', 'joint id A A'],
    [
      'ncrs',
      { ncrs: [{ id: 'n', number: 'NCR-1', open: true, conceded: false }] },
      'Open: NCR-1.',
      'ncr n NCR-1',
    ],
    [
      'embedment',
      {
        reaches: [
          { id: 'r', name: 'R 2', state: 'in-work' },
          { id: 's', name: 'R 3', state: 'accepted' },
        ],
      },
      'Not complete: R 2.',
      'reach r R 2',
    ],
    ['profile', { plan: { highOk: false, lowOk: false } }, 'The highest point sees too little.', ''],
    ['profile', { plan: { highOk: true, lowOk: false } }, 'The lowest component would be overloaded.', ''],
    ['method', { material: 'ductile iron' }, 'The method is for polyethylene, the line is ductile iron.', ''],
    ['gauge', { gauge: null }, 'No gauge is chosen.', ''],
    [
      'gauge',
      { gauge: { id: 'g', name: 'P-7', max: 25e5, calibratedUntil: 999 } },
      'P-7 is out of calibration.',
      'instrument g P-7',
    ],
    [
      'gauge',
      { gauge: { id: 'g', name: 'P-9', max: 100e5, calibratedUntil: 2000 } },
      'Test pressure 1250 kPa is not between 25 and 75 % of the span of P-9.',
      'instrument g P-9',
    ],
    [
      'sight',
      { sight: { doubt: 9, allowed: 9, unit: 'L' } },
      'It leaves 9 L in doubt where 9 L are allowed: hold longer, or take a finer one.',
      '',
    ],
    [
      'filled',
      { confirmed: said('restraint', 'sensor', 'exclusion', 'witness') },
      'To be confirmed on site.',
      '',
    ],
    ['witness', { confirmed: said('restraint', 'filled', 'sensor', 'exclusion') }, 'Not invited yet.', ''],
  ])('%s %j: %s', (key, more, sentence, evidence) => {
    const row = rowOf(key, more)
    expect(row).toMatchObject({ state: 'open', sentence })
    expect(row.evidence.map((e) => `${e.type} ${e.id} ${e.label}`).join(', ')).toBe(evidence)
  })
  it('keeps no other open', () =>
    expect(open({ material: 'ductile iron' }).map((r) => r.key)).toEqual(['method']))
  it('names four, counts the rest, and leads to eight', () => {
    const many = (n: number) => Array.from({ length: n }, (_v, i) => joint(`J${i + 1}`, { ready: false }))
    expect(rowOf('joints', { joints: many(4) }).sentence).toBe('Not accepted: J1, J2, J3, J4.')
    expect(rowOf('joints', { joints: many(5) }).sentence).toBe('Not accepted: J1, J2, J3, J4 and 1 more.')
    const ten = Array.from({ length: 10 }, (_v, i) =>
      joint(`J${i + 1}`, { heldSteps: 1, ready: false, at: null }),
    )
    for (const key of ['joints', 'clocks', 'holds'])
      expect(rowOf(key, { joints: ten }).evidence).toHaveLength(8)
    const reports = ten.map((_j, i) => ({ id: `${i}`, number: `NCR-${i}`, open: true, conceded: false }))
    expect(rowOf('ncrs', { ncrs: reports }).evidence).toHaveLength(8)
    const reaches = ten.map((_j, i) => ({ id: `${i}`, name: `R ${i}`, state: 'rejected' }))
    expect(rowOf('embedment', { reaches }).evidence).toHaveLength(8)
  })
})

describe('the witness', () => {
  const HOUR = 3_600_000
  const word = (kind: Entry['kind'], at: number, payload: Record<string, unknown>): Entry => ({
    ...{ id: `${kind} ${at}`, kind, step: 'witness', payload, person: 'p', role: 'inspector' },
    ...{ crew: null, instrument: null, recordedAt: at },
  })
  const invited = (hoursBefore: number, ...more: Entry[]) =>
    witnessOf([
      word('invitation', 100 * HOUR - hoursBefore * HOUR, { for: new Date(100 * HOUR).toISOString() }),
      ...more,
    ])
  const confirmed = said('restraint', 'filled', 'sensor', 'exclusion')
  const row = (witness: ReadyFacts['witness'], more = confirmed) =>
    readyList(facts({ confirmed: more, witness })).find((r) => r.key === 'witness')!
  it.each([
    ['told with the notice that is asked', invited(2), 'met'],
    ['told shorter before', invited(1), 'open'],
    ['told shorter before, but coming', invited(1, word('reply', 100 * HOUR, { accepts: true })), 'met'],
    [
      'who does not come in spite of the notice',
      invited(3, word('reply', 99 * HOUR, { accepts: false })),
      'met',
    ],
  ])('%s', (_what, witness, state) => expect(row(witness).state).toBe(state))
  it('told shorter before is let pass by whoever confirms it', () => {
    expect(row(invited(1)).confirmable).toBe(true)
    expect(row(invited(1), { ...confirmed, ...said('witness') }).state).toBe('met')
  })
  it('is said with how long before', () => expect(row(invited(2)).sentence).toContain('Told 2 h'))
})
it('a method for another material is met by an engineer’s reason alone', () => {
  const other = { material: 'ductile iron', methodReason: 'The liner of polyethylene is tested.' }
  const row = readyList(facts(other)).find((r) => r.key === 'method')!
  expect(row).toMatchObject({
    state: 'met',
    sentence: expect.stringContaining('The liner of polyethylene'),
  })
})
it('a row that was confirmed with a picture has it', () => {
  const confirmed = { ...facts().confirmed, filled: { by: 'Ines', photo: 'p1' } }
  const rows = readyList(facts({ confirmed }))
  expect(rows.find((r) => r.key === 'filled')).toMatchObject({
    photo: 'p1',
    sentence: 'Confirmed by Ines.',
  })
  expect(rows.find((r) => r.key === 'sensor')!.photo).toBeNull()
})
