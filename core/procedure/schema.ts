import * as yup from 'yup'
import { judgedSubjects } from '../checks/define'
import { checkKinds } from '../checks/registry'
import { dimension, formula, key, list, record, stepName, text } from '../checks/schema'
import { drawingFamilies } from './drawings'
import type { Procedure } from './types'

/** made or drawn once for each end */
const eachEnd = () => yup.string().oneOf(['end'])

/** One schema a kind of check. */
export const checkSchemas: Readonly<Record<string, yup.ObjectSchema<Record<string, unknown>>>> =
  Object.fromEntries(
    Object.entries(checkKinds).map(([kind, { schema }]) => [
      kind,
      record({ kind: yup.string().oneOf([kind]).required(), ...schema }).required(),
    ]),
  )

const check = yup.lazy((value: unknown) => {
  const kind = typeof value === 'object' && value !== null ? (value as { kind?: unknown }).kind : undefined
  return typeof kind === 'string' && Object.hasOwn(checkSchemas, kind)
    ? checkSchemas[kind]!
    : record({ kind: yup.string().oneOf(Object.keys(checkSchemas)).required() }).required()
})

const step = record({
  key: key().required(),
  title: text(120).required(),
  instruction: text().required(),
  why: text(),
  when: formula(),
  after: list(stepName()),
  window: record({ opens: formula(), early: text(), closes: formula(), late: text() }).default(undefined),
  once: stepName(),
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
  subject: yup.string().oneOf(judgedSubjects),
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
