import type {
  SchemaDescription,
  SchemaFieldDescription,
  SchemaInnerTypeDescription,
  SchemaObjectDescription,
} from 'yup'
import { checkSchemas, procedureSchema } from './schema'

type Json = Record<string, unknown>

/** What a validation of the one definition says in JSON Schema. */
function rules(d: SchemaDescription): Json {
  const out: Json = {}
  for (const { name, params } of d.tests) {
    const p = (params ?? {}) as Record<string, unknown>
    const list = d.type === 'array'
    if (name === 'max') out[list ? 'maxItems' : d.type === 'number' ? 'maximum' : 'maxLength'] = p.max
    if (name === 'min') out[list ? 'minItems' : d.type === 'number' ? 'minimum' : 'minLength'] = p.min
    if (name === 'matches' && p.regex) out.pattern = String(p.regex).replace(/^\/|\/$/g, '')
  }
  if (d.oneOf.length > 0) out.enum = d.oneOf
  return out
}

function convert(field: SchemaFieldDescription): Json {
  if (field.type === 'lazy')
    return { oneOf: Object.values(checkSchemas).map((schema) => convert(schema.describe())) }
  const d = field as SchemaDescription
  const own = ((d.meta as { json?: Json } | undefined)?.json ?? {}) as Json
  if (d.type === 'object') {
    const { fields } = d as SchemaObjectDescription
    const required = Object.entries(fields)
      .filter(([, f]) => !('optional' in f && f.optional))
      .map(([key]) => key)
    const closed = Object.keys(fields).length > 0
    return {
      type: 'object',
      ...(closed
        ? {
            properties: Object.fromEntries(Object.entries(fields).map(([key, f]) => [key, convert(f)])),
            additionalProperties: false,
          }
        : {}),
      ...(required.length > 0 ? { required } : {}),
      ...own,
    }
  }
  if (d.type === 'array') {
    const { innerType } = d as SchemaInnerTypeDescription
    return {
      type: 'array',
      ...rules(d),
      ...(innerType ? { items: convert(innerType as SchemaFieldDescription) } : {}),
      ...own,
    }
  }
  if (d.type === 'mixed') return { ...rules(d), ...own }
  return { type: d.type, ...rules(d), ...own }
}

/**
 * The shape of a procedure document as JSON Schema, made from the same definition that checks it.
 * Formulas, references and units are beyond a schema: `loadProcedure` checks those.
 */
export const procedureJsonSchema = (): Json => ({
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  title: 'Vet Line procedure',
  ...convert(procedureSchema.describe()),
})
