import * as yup from 'yup'
import { dimensions } from '../quantity/dimension'
import { drawingFamilies } from './drawings'
import type { Check, Procedure } from './types'

const KEY = /^[a-z][A-Za-z0-9-]*(\.[a-z][A-Za-z0-9]*)?$/
/** A step named by another: of a stage made at each end, with the end. */
const STEP = /^[a-z][A-Za-z0-9-]*(\.[a-z][A-Za-z0-9]*)?(@(upstream|downstream))?$/
const text = (max = 600) =>
  yup.string().strict().min(1).max(max).matches(/\S/, { name: 'ink', message: '${path} must say something' })
const stepName = () => text(60).matches(STEP, '${path} must be the key of a step')
const key = () => text(60).matches(KEY, '${path} must be a short key in lower case')
/** Formulas may be written as bare numbers in YAML. */
const formula = () =>
  yup
    .string()
    .transform((_v, raw) => (typeof raw === 'number' ? String(raw) : raw))
    .strict(false)
    .max(400)
    .meta({ json: { type: ['string', 'number'], maxLength: 400 } })
const dimension = (...more: string[]) => yup.string().oneOf([...Object.keys(dimensions), ...more])
const record = <S extends yup.ObjectShape>(shape: S) =>
  yup
    .object(shape)
    .noUnknown(true, ({ unknown, path }) => `${path || 'The procedure'} has unknown keys: ${unknown}`)
    .strict(false)
const list = <T extends yup.Schema>(of: T, max = 200) => yup.array().of(of).max(max)

/** a default that the project has to confirm */
const basis = () => yup.string().oneOf(['project'])

/** made or drawn once for each end */
const eachEnd = () => yup.string().oneOf(['end'])

const limit = record({
  of: text(40).required(),
  title: text(),
  min: formula(),
  max: formula(),
  unit: text(20),
  basis: basis(),
}).test(
  'some',
  '${path} needs min or max',
  (value) => value == null || value.min !== undefined || value.max !== undefined,
)

const measured = {
  quantity: dimension().required(),
  unit: yup.string().max(20).defined(),
  readings: yup
    .mixed((v): v is number | string =>
      typeof v === 'number'
        ? Number.isInteger(v) && v >= 1 && v <= 72
        : typeof v === 'string' && v.length <= 400,
    )
    .meta({ json: { type: ['integer', 'string'], minimum: 1, maximum: 72 } }),
  places: list(text(40)),
  limits: list(limit, 12).required().min(1),
  uncertainty: formula(),
  instrument: text(40),
  calculator: record({
    key: text(60).required(),
    readings: text(40).required(),
    arguments: yup.object(),
  }).default(undefined),
}

const checks: Record<Check['kind'], yup.ObjectShape> = {
  confirm: { question: text().required(), photo: yup.boolean() },
  choice: {
    question: text().required(),
    choices: list(
      record({
        key: key().required(),
        title: text().required(),
        conforms: yup
          .mixed(
            (v): v is boolean | string =>
              typeof v === 'boolean' || (typeof v === 'string' && v.length <= 400),
          )
          .required()
          .meta({ json: { type: ['boolean', 'string'] } }),
        reason: text(),
      }),
      12,
    )
      .required()
      .min(2),
  },
  measure: measured,
  environment: measured,
  mark: {
    formula: formula().required(),
    unit: text(20).required(),
    from: text().required(),
    question: text().required(),
  },
  count: { question: text().required(), min: formula(), max: formula(), basis: basis() },
  clock: {
    from: stepName().required(),
    earliest: formula(),
    latest: formula(),
    action: text(),
    gate: yup.string().oneOf(['pressure-test']),
    basis: basis(),
  },
  lot: { question: text().required(), shelfLife: formula(), shelfMonths: formula(), openedLife: formula() },
  calculated: {
    formula: formula().required(),
    quantity: dimension().required(),
    unit: yup.string().max(20).defined(),
    min: formula(),
    max: formula(),
    basis: basis(),
  },
}

/** One schema a kind of check. */
export const checkSchemas = Object.fromEntries(
  Object.entries(checks).map(([kind, shape]) => [
    kind,
    record({ kind: yup.string().oneOf([kind]).required(), ...shape }).required(),
  ]),
) as unknown as Record<Check['kind'], yup.ObjectSchema<Record<string, unknown>>>

const check = yup.lazy((value: unknown) => {
  const kind = typeof value === 'object' && value !== null ? (value as { kind?: unknown }).kind : undefined
  return typeof kind === 'string' && Object.hasOwn(checkSchemas, kind)
    ? checkSchemas[kind as Check['kind']]
    : record({ kind: yup.string().oneOf(Object.keys(checks)).required() }).required()
})

const step = record({
  key: key().required(),
  title: text(120).required(),
  instruction: text().required(),
  why: text(),
  when: formula(),
  after: list(stepName()),
  point: yup.string().oneOf(['H', 'W', 'S', 'R']),
  onFailure: record({
    action: yup.string().oneOf(['rework', 'recut', 'replace', 'reject', 'consult']).required(),
    words: text().required(),
  }).default(undefined),
  cautions: list(text()),
  aids: list(record({ calculator: text(60).required(), arguments: yup.object() }), 6),
  drawing: text(80),
  check: check as unknown as yup.Schema,
})

/** The shape of a procedure document; formulas, references and units are checked by `compileProcedure`. */
export const procedureSchema = record({
  key: key().required(),
  title: text(120).required(),
  revision: text(20).required(),
  system: key().required(),
  material: text(60).required(),
  basis: text().required(),
  cautions: list(text()).required(),
  facts: list(
    record({
      key: key().required(),
      title: text(120).required(),
      dimension: dimension('word', 'flag').required(),
      unit: yup.string().max(20),
      from: yup.string().oneOf(['pipe', 'fitting', 'joint', 'site', 'project']).required(),
      min: formula(),
      max: formula(),
      choices: list(text(40)),
      optional: yup.boolean(),
      nominal: yup.boolean(),
      default: text(60),
      example: yup
        .mixed(
          (v): v is string | boolean => typeof v === 'boolean' || (typeof v === 'string' && v.length <= 60),
        )
        .meta({ json: { type: ['string', 'boolean'] } }),
    }),
  ).required(),
  options: list(
    record({
      key: key().required(),
      title: text(120).required(),
      choices: list(record({ key: key().required(), title: text(200).required(), reason: text().required() }))
        .required()
        .min(2),
      default: key().required(),
    }),
  ).default([]),
  tables: list(
    record({
      key: key().required(),
      title: text(120).required(),
      dimension: dimension().required(),
      unit: yup.string().max(20),
      axes: list(
        record({
          dimension: dimension('word').required(),
          unit: yup.string().max(20),
          mode: yup.string().oneOf(['exact', 'banded', 'interpolated']).required(),
          values: yup.array().required().min(1).max(200),
        }),
        2,
      )
        .required()
        .min(1),
      values: yup.array().required().min(1).max(200),
    }),
  ).default([]),
  drawings: list(
    record({
      key: key().required(),
      show: yup.string().oneOf(Object.keys(drawingFamilies)).required(),
      title: text(120).required(),
      each: eachEnd(),
      readings: stepName(),
      values: yup
        .object()
        .required()
        .meta({ json: { additionalProperties: { type: ['string', 'number'] } } }),
    }),
    12,
  ).default([]),
  gate: yup.string().oneOf(['none']),
  stages: list(
    record({
      key: key().required(),
      title: text(120).required(),
      after: yup.string().oneOf(['pressure-test']),
      each: eachEnd(),
      when: formula(),
      steps: list(step).required().min(1),
    }),
    40,
  )
    .required()
    .min(1),
}) as unknown as yup.ObjectSchema<Procedure>
