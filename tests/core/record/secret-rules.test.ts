import { describe, expect, it } from 'vitest'
import { checkPassword, checkPin } from '../../../core/record/secret-rules'

describe('a password', () => {
  it.each([
    ...['a moor with curlews', 'Tr0ub4dor&3x', 'пароль для стройки', 'ten letter', 'abcdabcdab'],
    'x1y2'.repeat(50),
  ])('%s is taken', (password) => {
    expect(() => checkPassword(password, 'wren')).not.toThrow()
  })
  it.each([
    ['too few letters', 'nine only', /at least 10/],
    ['the same letters', 'abababababab', /guessed/],
    ['three letters only', 'abcabcabcabc', /guessed/],
    ['the sign-in name', 'wren.halloway', /guessed/],
    ['more than anybody types', `${'x1y2'.repeat(50)}z`, /at most 200/],
  ])('%s is refused', (_, password, why) => {
    expect(() => checkPassword(password, 'Wren.Halloway')).toThrow(why)
  })
})
describe('a PIN', () => {
  it.each(['7391', '2468', '80512347', '9630'])('%s is taken', (pin) => {
    expect(() => checkPin(pin)).not.toThrow()
  })
  it.each(['123', '123456789', '12a4', '', '٣٤٥٦'])('"%s" is no PIN', (pin) => {
    expect(() => checkPin(pin)).toThrow('four to eight digits')
  })
  it.each(['0000', '1234', '8765'])('%s is guessed at once', (pin) => {
    expect(() => checkPin(pin)).toThrow('guessed')
  })
})
