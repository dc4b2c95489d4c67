import * as yup from 'yup'
import { Problem } from '../problem'
import { isMoment } from './canonical'
import { uuid } from './uuid'

/** What an entry says. Entries are ink: they are appended, and struck only by a correction that says why. */
export const entryKinds = [
  'reading',
  'confirmation',
  'choice',
  'count',
  'clock',
  'lot',
  'remark',
  'photo',
  'request',
  'release',
  'refusal',
  'waiver',
  'decision',
  'signature',
  'correction',
  'ncr',
  'raise',
  'disposition',
  'rework',
  'verification',
  'inspection',
  'receipt',
  'damage',
  'lift',
  'density',
  'run',
  'evaluation',
  'start',
  'event',
  'draft',
  'submit',
  'review',
  'issue',
  'supersede',
  'register',
  'calibration',
  'setting',
  'sample',
  'dates',
  'quarantine',
  'round',
] as const
export type EntryKind = (typeof entryKinds)[number]

export const subjectTypes = [
  'joint',
  'delivery',
  'item',
  'reach',
  'pack',
  'ncr',
  'procedure',
  'instrument',
  'project',
  'order',
  'lot',
  'place',
] as const
export type SubjectType = (typeof subjectTypes)[number]
export type Role = 'inspector' | 'crew-lead' | 'engineer' | 'witness' | 'administrator'

/** One entry as the core sees it. Times are milliseconds since 1970, UTC. */
export interface Entry {
  id: string
  kind: EntryKind
  step: string | null
  payload: Record<string, unknown>
  person: string
  role: Role
  crew: string | null
  instrument: string | null
  recordedAt: number
  /** its time proves nothing: it satisfies no clock, shelf life or hold without an inspector's word */
  late?: boolean
  /** of a late entry: when it arrived, if that is known */
  receivedAt?: number
}

const words = (max = 2000) =>
  yup.string().strict().min(1).max(max).matches(/\S/, { name: 'ink', message: '${path} must say something' })
const finite = yup
  .number()
  .strict()
  .test('finite', '${path} must be a finite number', (v) => v === undefined || Number.isFinite(v))
const day = () =>
  yup
    .string()
    .strict()
    .matches(/^\d{4}-\d\d-\d\d$/, '${path} must be a date such as 2026-03-09')
    .test(
      'exists',
      '${path} is not a date that exists',
      (v) =>
        v === undefined || (!Number.isNaN(Date.parse(v)) && new Date(v).toISOString().slice(0, 10) === v),
    )
const shape = <S extends yup.ObjectShape>(s: S) =>
  yup
    .object(s)
    .noUnknown(true, ({ unknown }) => `The payload has unknown keys: ${unknown}`)
    .required()

/** Why something was done or measured again after it had been rejected. */
const again = () => words(400)

/** The payload of each kind that a person may record at a step of a joint. */
const payloads: Partial<Record<EntryKind, yup.ObjectSchema<Record<string, unknown>>>> = {
  reading: shape({
    reason: again(),
    values: yup.array().of(finite.required()).min(1).max(72).required(),
    typed: yup.array().of(yup.string().max(60).defined()).max(72),
  }),
  confirmation: shape({
    reason: again(),
    answer: yup.string().oneOf(['yes', 'no']).required(),
    at: yup.string(),
  }),
  choice: shape({ reason: again(), choice: words(60).required() }),
  count: shape({ reason: again(), count: finite.required().min(0) }),
  clock: shape({ reason: again(), answer: yup.string().oneOf(['yes', 'no']).required() }),
  lot: shape({ reason: again(), lot: words(80).required(), expires: day(), made: day(), opened: day() }),
  remark: shape({ text: words().required() }),
  photo: shape({ file: uuid().required(), name: words(200) }),
  request: shape({ note: words(400) }),
  release: shape({ note: words(400) }),
  refusal: shape({ reason: words().required() }),
  waiver: shape({
    reason: words().required(),
    lot: words(80),
    waives: yup.array().of(words(60).required()).max(200),
  }),
  decision: shape({
    verdict: yup.string().oneOf(['accept', 'reject', 'again']).required(),
    reason: words().required(),
    stands: uuid(),
  }),
  correction: shape({ strikes: uuid().required(), reason: words().required() }),
}

/** Entry kinds that may be sent for a step of a joint; the others are made by the use cases that own them. */
export const jointEntryKinds = Object.keys(payloads) as EntryKind[]

/** What a device says of the time of an entry: its moment, its running number, and the stamp it had. */
export const timing = {
  number: yup.number().strict().integer().min(1).max(4_000_000_000).nullable().default(null),
  stamp: yup.string().strict().max(100).nullable().default(null),
  recordedAt: yup
    .string()
    .strict()
    .matches(/^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d{1,3})?Z$/, '${path} must be a UTC time')
    .test(
      'moment',
      '${path} is not a time of this century',
      (v) => v === undefined || isMoment(Date.parse(v)),
    )
    .required(),
}

export const newEntrySchema = yup
  .object({
    id: uuid().required(),
    kind: yup.string().oneOf(jointEntryKinds).required(),
    step: yup.string().strict().max(60).nullable().default(null),
    payload: yup.object().required(),
    instrument: yup.string().strict().max(36).nullable().default(null),
    device: yup.string().strict().max(60).nullable().default(null),
    ...timing,
  })
  .noUnknown(true, ({ unknown }) => `The entry has unknown keys: ${unknown}`)

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
