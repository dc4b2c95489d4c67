import * as yup from 'yup'
import { uuid } from './uuid'

/** The pieces that payloads of entries are made of. Nothing is coerced; what is not named is refused. */

/** Text that says something. */
export const words = (max = 2000) =>
  yup.string().strict().min(1).max(max).matches(/\S/, { name: 'ink', message: '${path} must say something' })

export const finite = () =>
  yup
    .number()
    .strict()
    .test('finite', '${path} must be a finite number', (v) => v == null || Number.isFinite(v))

/** A calendar day that exists. */
export const day = () =>
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

export const shape = <S extends yup.ObjectShape>(s: S) =>
  yup
    .object(s)
    .exact(({ properties }) => `The payload has unknown keys: ${properties}`)
    .required()

/** Where an answer that was asked once was given: what `stands` at this subject was recorded there. */
const once = yup
  .object({
    entry: uuid().required(),
    subject: uuid().required(),
    /** name of the subject, for people */
    at: words(60).required(),
    /** ms */
    answeredAt: finite().required(),
    /** the lot that it rests on, by its step: with another lot it is asked again */
    rests: yup
      .object({ step: words(60).required(), lot: words(80).required() })
      .exact()
      .default(undefined),
  })
  .exact()
  .default(undefined)

/**
 * The payload of an answer: with its reason, where something is done again after a rejection; with its
 * origin, where it was asked once and stands here.
 */
export const answer = <S extends yup.ObjectShape>(s: S) => shape({ reason: words(400), once, ...s })

export type Payload = yup.ObjectSchema<Record<string, unknown>>
