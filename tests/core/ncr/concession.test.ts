import { describe, expect, it } from 'vitest'
import { clientWord } from '../../../core/ncr/concession'
import { entry } from '../support'

/** The client's word is of the concession that was decided before it, and of no later one. */
const decided = () => entry(null, 'disposition', { disposition: 'use-as-is', reason: 'It holds.' }, 1)
const word = (payload: object) => entry(null, 'concession', { ...payload }, 2, { person: 'hale' })

describe('the client’s word on a concession', () => {
  it.each([
    ['nothing was decided', () => [word({ agrees: true, text: 'So be it.' })]],
    ['nothing was said', () => [decided()]],
    ['neither', () => []],
    ['it was decided anew since', () => [decided(), word({ agrees: true, text: 'So be it.' }), decided()]],
    ['something else was said', () => [decided(), entry(null, 'remark', { text: 'Seen.', agrees: true }, 2)]],
  ])('is none where %s', (_name, entries) => expect(clientWord(entries())).toBeNull())
  it.each([
    [true, true],
    [false, false],
    ['true', false],
    [undefined, false],
  ])('said as %j agrees: %s', (agrees, agreed) => {
    const said = word({ agrees, text: 'On the safe side.' })
    expect(clientWord([decided(), said])).toEqual({
      ...{ agrees: agreed, text: 'On the safe side.', by: 'hale', at: said.recordedAt },
    })
  })
  it('is the last of several, and empty where nothing was written', () => {
    const entries = [decided(), word({ agrees: false, text: 'No.' }), decided(), word({ agrees: true })]
    expect(clientWord(entries)).toMatchObject({ agrees: true, text: '' })
  })
})
