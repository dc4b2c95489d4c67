import { readFileSync } from 'node:fs'
import Ajv2020 from 'ajv/dist/2020'
import { describe, expect, it } from 'vitest'
import { parse } from 'yaml'
import { procedureJsonSchema } from '../../../core/procedure/json-schema'
import { procedureSource, systemKeys } from '../../../demo/system-records'
import { electrofusionSource } from '../support'

const validate = new Ajv2020({ strict: false }).compile(procedureJsonSchema())
const broken = (change: (document: Record<string, never>) => void) => {
  const document = structuredClone(parse(electrofusionSource))
  change(document)
  return document
}

describe('the JSON Schema of procedures', () => {
  it('shipped beside the procedures is the one the definition gives', () => {
    expect(
      JSON.parse(readFileSync(new URL('../../../procedures/procedure.schema.json', import.meta.url), 'utf8')),
    ).toEqual(JSON.parse(JSON.stringify(procedureJsonSchema())))
  })
  it.each(systemKeys)('accepts %s', (key) => {
    expect(validate(parse(procedureSource(key))), JSON.stringify(validate.errors)).toBe(true)
  })
  // eslint-disable-next-line @typescript-eslint/no-explicit-any -- broken on purpose
  it.each<[string, (d: any) => void]>([
    ['a missing title', (d) => delete d.title],
    ['an unknown key', (d) => (d.colour = 'blue')],
    ['a check of an unknown kind', (d) => (d.stages[0].steps[0].check = { kind: 'wish', question: 'Well?' })],
    ['a confirm with limits', (d) => (d.stages[0].steps[0].check.limits = [])],
    ['a fact of an unknown dimension', (d) => (d.facts[0].dimension = 'taste')],
    ['a key in capitals', (d) => (d.stages[0].key = 'READY')],
    ['a drawing of an unknown family', (d) => (d.drawings[0].show = 'portrait')],
    ['no stages', (d) => (d.stages = [])],
  ])('refuses %s', (_what, change) => expect(validate(broken(change))).toBe(false))
})
