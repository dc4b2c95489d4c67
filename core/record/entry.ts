import * as yup from 'yup'
import type { Role } from '../access'
import { isMoment } from './canonical'
import { shape, words } from './payload'
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
  'levels',
  'survey',
  'grout',
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
  'invitation',
  'reply',
  'attendance',
  'action',
  'done',
  'withdrawal',
  'query',
  'response',
  'watch',
  'concession',
  'gathered',
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
  'shift',
] as const
export type SubjectType = (typeof subjectTypes)[number]

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

const isTime = (v: string | undefined) => v === undefined || isMoment(Date.parse(v))

/** The payload of each kind that a person may record at any step; answers are of the checks. */
export const plainPayloads = {
  remark: shape({ text: words().required() }),
  photo: shape({ file: uuid().required(), name: words(200) }),
  request: shape({ note: words(400) }),
  /** `here`: on the crew’s device, without a signal */
  release: shape({
    note: words(400),
    here: yup.boolean(),
    /** what later steps must show besides */
    conditions: yup
      .array()
      .of(
        yup
          .object({ step: words(60).required(), text: words(400).required() })
          .exact()
          .required(),
      )
      .max(20),
  }),
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
  /** a witness point: when it will be, and what the witness says */
  invitation: shape({
    for: yup.string().strict().max(40).test('moment', '${path} is not a time', isTime).required(),
  }),
  reply: shape({ accepts: yup.boolean().required(), reason: words(400) }),
  attendance: shape({ present: yup.boolean().required(), note: words(400) }),
  /** who reads the record: it is in order, or asks somebody */
  review: shape({ note: words(400) }),
  query: shape({ text: words(400).required(), to: yup.string().oneOf(['crew', 'inspector']).required() }),
  /** to a query, or to a condition of a release */
  response: shape({
    to: uuid().required(),
    index: yup.number().strict().integer().min(0).max(19),
    good: yup.boolean(),
    text: words(400).required(),
  }),
  /** under surveillance: somebody stood by */
  watch: shape({ good: yup.boolean().required(), note: words(400) }),
  correction: shape({ strikes: uuid().required(), reason: words().required() }),
  /** the whole subject is no part of the job any more */
  withdrawal: shape({ reason: words().required() }),
} as const

/**
 * What a device says of the time of an entry: its moment, its running number, the stamp it had, and whether
 * its clock was moved before it had contact again.
 */
export const timing = {
  number: yup.number().strict().integer().min(1).max(4_000_000_000).nullable().default(null),
  stamp: yup.string().strict().max(100).nullable().default(null),
  moved: yup.boolean().strict().default(false),
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
