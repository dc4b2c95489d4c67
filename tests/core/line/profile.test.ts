import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { readCsv } from '../../../core/files/table'
import { readProfile } from '../../../core/line/profile'
import { Problem } from '../../../core/problem'

const table = (...lines: string[]) => readCsv(new TextEncoder().encode(lines.join('\n')))
const rowsOf = (...lines: string[]) => {
  try {
    readProfile(table(...lines))
  } catch (error) {
    if (error instanceof Problem)
      return [
        error.code,
        (error.details?.rows as { row: number; column: string }[] | undefined)?.map((r) => [r.row, r.column]),
      ]
    throw error
  }
  return 'taken'
}

describe('a profile as a table', () => {
  it('the shipped sample has invert and ground', () => {
    const { profile, ground } = readProfile(readCsv(readFileSync('samples/own-project/profile.csv')))
    expect([profile.length, ground.length]).toEqual([12, 12])
    expect(profile[0]).toEqual({ station: 0, elevation: 412.6 })
  })
  it('reads units and the usual headings', () => {
    const { profile, ground } = readProfile(table('Chainage;Elevation', '0;100 ft', '100 ft;99 ft'))
    expect(profile[1]).toEqual({ station: 100 * 0.3048, elevation: 99 * 0.3048 })
    expect(ground).toEqual([])
  })
  it.each([
    ['a station that falls back', ['station,invert', '0,10', '20,9', '10,8'], ['bad-rows', [[4, 'station']]]],
    ['a station twice', ['station,invert', '0,10', '0,9'], ['bad-rows', [[3, 'station']]]],
    ['ground under the pipe', ['station,ground,invert', '0,9,10', '5,12,10'], ['bad-rows', [[2, 'ground']]]],
    ['what is no level', ['station,invert', '0,deep', '5,9'], ['bad-rows', [[2, 'invert']]]],
    ['a level in bar', ['station,invert', '0,3 bar', '5,9'], ['bad-rows', [[2, 'invert']]]],
    ['no column of levels', ['station,colour', '0,red', '5,blue'], ['bad-file', undefined]],
    ['a single station', ['station,invert', '0,10'], ['bad-file', undefined]],
  ])('%s is refused by row', (_, lines, expected) => {
    expect(rowsOf(...lines)).toEqual(expected)
  })
})
