import * as yup from 'yup'
import { Problem } from '../problem'
import { plainPayloads, timing, type EntryKind } from '../record/entry'
import type { Payload } from '../record/payload'
import { uuid } from '../record/uuid'
import { answerPayloads } from './registry'

/** The payload of each kind that a person may send for a step: answers of the checks, and plain entries. */
const payloads: Partial<Record<EntryKind, Payload>> = { ...answerPayloads, ...plainPayloads }

/** Entry kinds that may be sent for a step; the others are made by the use cases that own them. */
export const sentKinds = Object.keys(payloads) as EntryKind[]

/** An entry as a device sends it; its payload is checked by its kind. */
export const newEntrySchema = yup
  .object({
    id: uuid().required(),
    kind: yup.string().oneOf(sentKinds).required(),
    step: yup.string().strict().max(60).nullable().default(null),
    payload: yup.object().required(),
    instrument: yup.string().strict().max(36).nullable().default(null),
    device: yup.string().strict().max(60).nullable().default(null),
    ...timing,
  })
  .exact(({ properties }) => `The entry has unknown keys: ${properties}`)

/** Checks the payload of an entry against its kind. @throws Problem `bad-payload` naming the field */
export function checkPayload(kind: EntryKind, payload: unknown): Record<string, unknown> {
  const schema = payloads[kind]
  if (!schema) throw new Problem('bad-kind', `A ${kind} is not recorded this way.`, 'kind')
  try {
    return schema.validateSync(payload)
  } catch (error) {
    if (error instanceof yup.ValidationError)
      throw new Problem('bad-payload', error.message, error.path || 'payload')
    throw error
  }
}
