import { describe, expect, it } from 'vitest'
import { crewScope, mayHear, NO_CREW } from '../../../core/access'
import {
  checkCovered,
  checkDecision,
  checkRelease,
  checkReview,
  checkVerification,
  checkWitness,
} from '../../../core/judgement/duties'
import { entry, read } from '../support'

const by = (person: string) => ({ person })
const refused = (run: () => void) => {
  try {
    run()
    return null
  } catch (error) {
    return (error as { code: string }).code
  }
}

describe('who did a thing does not judge it', () => {
  it('who asks for a release does not give it; the last request counts', () => {
    const asked = entry('hold', 'request', {}, 1, by('ines'))
    expect(refused(() => checkRelease([asked], 'hold', 'ines'))).toBe('own-work')
    expect(refused(() => checkRelease([asked], 'hold', 'oskar'))).toBeNull()
    expect(refused(() => checkRelease([asked], 'other', 'ines'))).toBeNull()
    expect(
      refused(() => checkRelease([asked, entry('hold', 'request', {}, 2, by('tam'))], 'hold', 'ines')),
    ).toBeNull()
  })
  it('nobody accepts their own answer against the criterion; rejecting it, or measuring again, anybody may', () => {
    const mine = read('gouge', [0.002], 1, by('ines'))
    expect(refused(() => checkDecision([mine], 'gouge', 'ines', { verdict: 'accept' }))).toBe('own-work')
    expect(refused(() => checkDecision([mine], 'gouge', 'oskar', { verdict: 'accept' }))).toBeNull()
    for (const verdict of ['reject', 'again'])
      expect(refused(() => checkDecision([mine], 'gouge', 'ines', { verdict }))).toBeNull()
    expect(refused(() => checkDecision([mine], 'square', 'ines', { verdict: 'accept' }))).toBeNull()
  })
  it('nobody says that their own answer stands, nor one that is not there', () => {
    const [mine, theirs] = [read('gouge', [0.002], 1, by('ines')), read('gouge', [0.001], 2, by('tam'))]
    const stands = (id: string, person: string) =>
      refused(() => checkDecision([mine, theirs], 'gouge', person, { verdict: 'accept', stands: id }))
    expect([
      stands(mine.id, 'ines'),
      stands(theirs.id, 'ines'),
      stands(mine.id, 'oskar'),
      stands('elsewhere', 'oskar'),
    ]).toEqual(['own-work', null, null, 'not-found'])
  })
  it('whoever saved any line of a revision does not review it, also when a colleague saved last', () => {
    const drafts = [
      entry(null, 'draft', {}, 1, by('petra')),
      entry(null, 'draft', {}, 2, by('juno')),
      entry(null, 'submit', {}, 3, by('juno')),
    ]
    expect(['petra', 'juno', 'other'].map((p) => refused(() => checkReview(drafts, p)))).toEqual([
      'own-work',
      'own-work',
      null,
    ])
  })
  it('whoever did any rework does not verify it, also after another decision and another rework', () => {
    const list = [
      entry(null, 'rework', {}, 1, by('ines')),
      entry(null, 'verification', { accepted: false }, 2, by('oskar')),
      entry(null, 'disposition', {}, 3),
      entry(null, 'rework', {}, 4, by('tam')),
    ]
    expect(['ines', 'tam', 'oskar'].map((p) => refused(() => checkVerification(list, p)))).toEqual([
      'own-work',
      'own-work',
      null,
    ])
  })
  it.each(['start', 'run', 'event', 'confirmation'] as const)(
    'who ran a test (%s) does not witness it',
    (kind) => {
      expect(refused(() => checkWitness([entry(null, kind, {}, 1, by('hale'))], 'hale'))).toBe('own-work')
      expect(refused(() => checkWitness([entry(null, kind, {}, 1, by('ines'))], 'hale'))).toBeNull()
    },
  )
})

describe('what is signed off', () => {
  const open = { covered: false, accepted: false, reopened: false }
  it.each([
    ['open work', open, null],
    ['what was released', { ...open, covered: true }, 'signed-off'],
    ['an accepted joint', { ...open, accepted: true }, 'signed-off'],
    ['what a report has opened again', { covered: true, accepted: true, reopened: true }, null],
  ])('a crew and %s', (_what, at, code) => expect(refused(() => checkCovered(at, ['crew-lead']))).toBe(code))
  it('an inspector changes it', () =>
    expect(
      refused(() => checkCovered({ covered: true, accepted: true, reopened: false }, ['inspector'])),
    ).toBeNull())
})

describe('what a member sees', () => {
  it.each([
    [[{ role: 'crew-lead', crew: 'north' }], 'north'],
    [[{ role: 'crew-lead', crew: null }], NO_CREW],
    [
      [
        { role: 'crew-lead', crew: 'north' },
        { role: 'witness', crew: null },
      ],
      'north',
    ],
    [
      [
        { role: 'witness', crew: null },
        { role: 'crew-lead', crew: null },
      ],
      NO_CREW,
    ],
    [
      [
        { role: 'crew-lead', crew: 'north' },
        { role: 'inspector', crew: null },
      ],
      null,
    ],
    [[{ role: 'engineer', crew: null }], null],
    [[{ role: 'witness', crew: null }], null],
  ] as const)('%j: %s', (memberships, scope) => expect(crewScope(memberships)).toBe(scope))
  it('a crew hears of its own work and of what all work by, and of nothing else', () => {
    expect(mayHear('north', 'joint', 'north')).toBe(true)
    for (const [type, crew] of [
      ['joint', 'south'],
      ['joint', null],
      ['delivery', null],
      ['item', null],
      ['pack', null],
      ['ncr', 'south'],
    ] as const)
      expect(mayHear('north', type, crew), type).toBe(false)
    for (const type of ['procedure', 'project', 'instrument', 'lot'])
      expect(mayHear('north', type, null)).toBe(true)
    expect(mayHear(null, 'joint', 'south')).toBe(true)
    expect(mayHear(NO_CREW, 'joint', 'south')).toBe(false)
  })
})
