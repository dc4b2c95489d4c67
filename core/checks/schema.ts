import * as yup from 'yup'
import { dimensions } from '../quantity/dimension'

/** The pieces that documents of procedures, and the checks in them, are made of. */

const KEY = /^[a-z][A-Za-z0-9-]*(\.[a-z][A-Za-z0-9]*)?$/
/** A step named by another: of a stage made at each end, with the end. */
const STEP = /^[a-z][A-Za-z0-9-]*(\.[a-z][A-Za-z0-9]*)?(@(upstream|downstream))?$/

export const text = (max = 600) =>
  yup.string().strict().min(1).max(max).matches(/\S/, { name: 'ink', message: '${path} must say something' })
export const key = () => text(60).matches(KEY, '${path} must be a short key in lower case')
export const stepName = () => text(60).matches(STEP, '${path} must be the key of a step')

/** Formulas may be written as bare numbers in YAML. */
export const formula = () =>
  yup
    .string()
    .transform((_v, raw) => (typeof raw === 'number' ? String(raw) : raw))
    .strict(false)
    .max(400)
    .meta({ json: { type: ['string', 'number'], maxLength: 400 } })

/** A formula that says yes or no, or the word itself. */
export const truth = () =>
  yup
    .mixed((v): v is boolean | string => typeof v === 'boolean' || (typeof v === 'string' && v.length <= 400))
    .meta({ json: { type: ['boolean', 'string'] } })

export const dimension = (...more: string[]) => yup.string().oneOf([...Object.keys(dimensions), ...more])

export const record = <S extends yup.ObjectShape>(shape: S) =>
  yup
    .object(shape)
    // Not `noUnknown`: that drops what it does not know before it looks, and a limit misspelled would be no limit.
    .exact(({ properties, path }) => `${path || 'The procedure'} has unknown keys: ${properties}`)

export const list = <T extends yup.Schema>(of: T, max = 200) => yup.array().of(of).max(max)

/** A default that the project has to confirm. */
export const basis = () => yup.string().oneOf(['project'])
