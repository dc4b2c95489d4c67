import { describe, expect, it } from 'vitest'
import { readTemplate } from '../../../core/plan/template'
import { refusal } from '../refusal'

const whole = {
  ...{ format: 'vet-line-template', version: 1, of: 'Skerry Head', procedures: ['key: a'], articles: 'Key' },
  plan: { a: { clean: 'W', looks: null } },
  schools: { a: { scrape: 'half' } },
}
const read = (more: object = {}) => readTemplate(JSON.stringify({ ...whole, ...more }))
const refused = (more: object) => refusal(() => read(more))

describe('a template of another project', () => {
  it('is read as it was written', () => expect(read()).toEqual(whole))
  it('may have no points and no schools of its own', () =>
    expect(read({ plan: undefined, schools: undefined })).toMatchObject({ plan: {}, schools: {} }))
  it('has a name of at most 160 letters', () => expect(read({ of: 'x'.repeat(200) }).of).toHaveLength(160))
  it('leaves out what it does not know', () =>
    expect(read({ people: ['ines'] })).not.toHaveProperty('people'))
  it.each(['', 'null', '7', '[]', '{', '{"format":"other"}'])('%j is none', (text) =>
    expect(refusal(() => readTemplate(text))).toEqual(['bad-template', 'file']),
  )
  it.each<[string, object]>([
    ['of a newer version', { version: 2 }],
    ['without a name', { of: 7 }],
    ['without articles', { articles: null }],
    ['without procedures', { procedures: 'key: a' }],
    ['with a procedure that is no text', { procedures: ['key: a', 7] }],
    ['with a procedure that is too long', { procedures: ['x'.repeat(400_001)] }],
    ['with too many procedures', { procedures: Array.from({ length: 201 }, () => 'key: a') }],
    ['with a point that there is not', { plan: { a: { clean: 'X' } } }],
    ['with a plan that is a list', { plan: [] }],
    ['with a plan of lists', { plan: { a: [] } }],
    ['with a school that is no word', { schools: { a: { scrape: 1 } } }],
  ])('%s is refused', (_what, more) => expect(refused(more)).toEqual(['bad-template', 'file']))
  it.each<[string, object]>([
    ['as many procedures as may be', { procedures: Array.from({ length: 200 }, () => 'key: a') }],
    ['as long a procedure as may be', { procedures: ['x'.repeat(400_000)] }],
  ])('%s are taken', (_what, more) => expect(refused(more)).toBeNull())
})
