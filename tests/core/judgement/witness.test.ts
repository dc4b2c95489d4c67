import { describe, expect, it } from 'vitest'
import { checkAttendance } from '../../../core/judgement/duties'
import { witnessOf } from '../../../core/judgement/witness'
import type { Problem } from '../../../core/problem'
import type { Entry } from '../../../core/record/entry'
import { entry, T0, yes } from '../entries'

const MINUTE = 60_000
const moment = (minute: number) => new Date(T0 + minute * MINUTE).toISOString()
const invited = (minute: number, until: number) => entry('w', 'invitation', { for: moment(until) }, minute)
const reply = (accepts: boolean, minute: number) =>
  entry('w', 'reply', { accepts }, minute, { role: 'witness' })
const came = (present: boolean, minute: number) => entry('w', 'attendance', { present }, minute)

describe('a witness point', () => {
  it.each<[string, Entry[], string]>([
    ['nobody is asked', [], 'not-invited'],
    ['somebody is', [invited(0, 180)], 'invited'],
    ['the witness says yes', [invited(0, 180), reply(true, 5)], 'accepted'],
    ['the witness says no', [invited(0, 180), reply(false, 5)], 'declined'],
    ['and comes all the same', [invited(0, 180), reply(false, 5), came(true, 175)], 'attended'],
    ['said yes and stayed away', [invited(0, 180), reply(true, 5), came(false, 190)], 'absent'],
    [
      'asked again, the answer before is void',
      [invited(0, 180), reply(false, 5), invited(10, 300)],
      'invited',
    ],
  ])('when %s', (_what, entries, state) => expect(witnessOf(entries).state).toBe(state))
  it('short notice is said of the crew, at the notice that the project asks', () => {
    expect(witnessOf([invited(0, 119)])).toMatchObject({ short: true, notice: 119 * 60 })
    expect(witnessOf([invited(0, 120)]).short).toBe(false)
    expect(witnessOf([invited(0, 120)], 4 * 3600).short).toBe(true)
  })
  it.each([
    ['before the time', 175, null, 'The witness was there.'],
    ['five minutes after it, which is in time', 185, null, 'The witness was there.'],
    ['later', 214, 34 * 60, 'The witness came 34 min after the time.'],
  ])('who comes %s', (_what, minute, late, sentence) =>
    expect(witnessOf([invited(0, 180), came(true, minute)])).toMatchObject({ late, sentence }),
  )
  it('who stays away is absent, and not late', () =>
    expect(witnessOf([invited(0, 180), came(false, 240)]).late).toBeNull())
  it('work done before anybody was asked is told apart from work that the crew went on with', () => {
    expect(witnessOf([yes('w', 5)])).toMatchObject({ state: 'not-invited', unasked: true })
    expect(witnessOf([yes('w', 5), invited(10, 200)]).unasked).toBe(true)
    expect(witnessOf([invited(0, 180), came(false, 181), yes('w', 185)])).toMatchObject({
      ...{ state: 'absent', unasked: false },
    })
  })
})

describe('who says what at it', () => {
  const refused = (act: () => void) => {
    try {
      act()
    } catch (error) {
      return (error as Problem).code
    }
    return null
  }
  const before = [invited(0, 180)]
  it.each<[string, Entry[], Entry, readonly Entry['role'][], string | null]>([
    ['nobody answers what was not asked', [], reply(true, 5), ['witness'], 'not-invited'],
    ['the witness answers', before, reply(true, 5), ['witness'], null],
    ['the witness was there', before, came(true, 170), ['witness'], null],
    ['nobody says so for the witness', before, came(true, 170), ['crew-lead', 'inspector'], 'own-work'],
    ['the crew says that nobody came', before, came(false, 181), ['crew-lead'], null],
    ['but not before the time', before, came(false, 179), ['crew-lead'], 'too-early'],
  ])('%s', (_what, entries, said, roles, code) =>
    expect(refused(() => checkAttendance(entries, said, roles))).toBe(code),
  )
})
