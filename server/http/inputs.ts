import { pressureUnits, temperatureUnits, timeForms, volumeUnits } from '#core/pressure/log-map'
import * as yup from 'yup'
import { uuid } from '#core/record/uuid'

/** Parts of bodies and queries that several routes take. */
export const sentFile = () =>
  yup
    .object({ name: yup.string().max(200).required(), data: yup.string().max(8_500_000).required() })
    .nullable()
    .default(null)

/** column → heading of the file */
export const columnMapping = () =>
  yup
    .mixed<Record<string, string>>()
    .nullable()
    .default(null)
    .test(
      'mapping',
      'mapping must name columns of the file',
      (v) =>
        v === null ||
        v === undefined ||
        (typeof v === 'object' &&
          !Array.isArray(v) &&
          Object.keys(v).length <= 20 &&
          Object.entries(v).every(([k, h]) => k.length <= 40 && typeof h === 'string' && h.length <= 200)),
    )

/** The most that a file travelling as text in a body may take. */
export const FILE_LIMIT = 9_000_000

export const typedRows = () =>
  yup
    .array()
    .of(
      yup
        .mixed<Record<string, string>>()
        .required()
        .test(
          'row',
          '${path} must be texts by column',
          (v) =>
            typeof v === 'object' &&
            v !== null &&
            !Array.isArray(v) &&
            Object.keys(v).length <= 12 &&
            Object.values(v).every((t) => typeof t === 'string' && t.length <= 200),
        ),
    )
    .min(1)
    .max(500)
    .nullable()
    .default(null)

export const paging = {
  from: yup.number().integer().min(0).max(10_000_000).default(0),
  count: yup.number().integer().min(1).max(500).default(100),
  search: yup.string().trim().max(80).default(''),
}

export const dayOrNull = () =>
  yup
    .string()
    .strict()
    .matches(/^\d{4}-\d\d-\d\d$/, '${path} must be a date such as 2026-03-09')
    .nullable()
    .default(null)

export const noteSource = {
  order: uuid().required(),
  file: sentFile(),
  mapping: columnMapping(),
  rows: typedRows(),
}

const heading = () => yup.string().max(200)
const orNone = () => heading().nullable()

/** What a person says of the columns of a logger's file; the rest is taken from its headings. */
const logMap = yup
  .object({
    time: heading(),
    date: orNone(),
    form: yup.string().oneOf(timeForms),
    zone: yup.string().max(60).nullable(),
    begin: yup.string().datetime().nullable(),
    pressure: heading(),
    pressureUnit: yup.string().oneOf(pressureUnits).nullable(),
    pipe: orNone(),
    air: orNone(),
    temperatureUnit: yup.string().oneOf(temperatureUnits),
    makeup: orNone(),
    makeupUnit: yup.string().oneOf(volumeUnits).nullable(),
    makeupEach: yup.boolean().strict(),
  })
  .nullable()
  .default(null)

/** A logger's file with the map of its columns. */
export const logFile = yup.object({
  csv: yup.string().min(1).max(15_000_000).required(),
  map: logMap,
})

/** A drawn signature, given with the PIN. */
export const drawnSignature = yup.object({
  secret: yup.string().min(1).max(200).required(),
  image: yup
    .string()
    .max(200_000)
    .matches(/^data:image\/png;base64,[A-Za-z0-9+/=]+$/, 'Draw the signature.')
    .required(),
})

/** That something is no part of the job any more, given with the PIN. */
export const withdrawal = yup.object({
  id: uuid().required(),
  reason: yup.string().trim().min(3).max(2000).required(),
  secret: yup.string().min(1).max(200).required(),
})

/** A word at a witness point. */
export const readingBody = yup.object({
  id: uuid().required(),
  step: yup.string().max(60).required(),
  kind: yup
    .string()
    .oneOf(['review', 'query', 'watch'] as const)
    .required(),
  payload: yup.object().required(),
})

export const witnessBody = yup.object({
  id: uuid().required(),
  step: yup.string().max(60).required(),
  kind: yup
    .string()
    .oneOf(['invitation', 'reply', 'attendance'] as const)
    .required(),
  payload: yup.object().required(),
})
