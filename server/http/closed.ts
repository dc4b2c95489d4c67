import type { AnyObjectSchema, ISchema } from 'yup'

interface Parts {
  type: string
  fields?: Record<string, unknown>
  innerType?: unknown
}

function close(schema: unknown): unknown {
  const { type, fields, innerType } = schema as Parts
  if (type === 'object' && fields && Object.keys(fields).length > 0) return closed(schema as AnyObjectSchema)
  if (type === 'array' && innerType) return (schema as { of(inner: unknown): unknown }).of(close(innerType))
  return schema
}

/**
 * The same schema, refusing keys that it does not name, at every depth: what nobody
 * reads must not travel on. Objects without named fields hold what a use case checks.
 */
export function closed<S extends AnyObjectSchema>(schema: S): S {
  const fields = Object.fromEntries(
    Object.entries(schema.fields).map(([key, field]) => [key, close(field) as ISchema<unknown>]),
  )
  return schema.shape(fields as never).noUnknown(true, ({ unknown }) => `Unknown: ${unknown}`) as unknown as S
}
