import * as yup from 'yup'
import { siteUnits } from '#core/quantity/site-units'
import { uuid } from '#core/record/uuid'

/** Bodies of what a project is set up and planned with. */
const words = (max: number) => yup.string().strict().trim().min(1).max(max).required()
const typed = () => yup.string().strict().max(40).default('')

export const projectBody = yup.object({
  name: words(160),
  zone: words(60),
  units: yup.string().oneOf(siteUnits).required(),
  codes: yup.string().strict().trim().max(2000).default(''),
  title: yup.string().strict().trim().max(160).default(''),
})

export const rolesGiven = yup
  .array()
  .of(yup.object({ role: yup.string().max(20).required(), crew: uuid().nullable().default(null) }).required())
  .max(10)
  .required()

export const planFile = yup
  .object({ name: yup.string().max(200).required(), data: yup.string().max(8_500_000).required() })
  .required()

const station = yup.number().strict().min(-1e7).max(1e7).required()
const points = yup
  .array()
  .of(yup.object({ station, elevation: yup.number().strict().min(-1e4).max(1e4).required() }).required())
  .max(50_000)
  .default([])

export const lineBody = yup.object({
  key: words(20),
  name: words(120),
  material: words(60),
  from: typed(),
  to: typed(),
  designPressure: typed(),
  profile: points,
  ground: points,
  path: yup
    .array()
    .of(
      yup
        .object({
          lon: yup.number().strict().min(-180).max(180).required(),
          lat: yup.number().strict().min(-90).max(90).required(),
          station,
        })
        .required(),
    )
    .max(50_000)
    .default([]),
})

export const generatorBody = yup.object({
  line: uuid().required(),
  system: words(60),
  crew: uuid().required(),
  from: typed(),
  to: typed(),
  pipeLength: typed(),
  pattern: words(40),
  start: yup.number().strict().required(),
})

export const cuttingBody = yup.object({
  line: uuid().required(),
  system: words(60),
  crew: uuid().required(),
  from: typed(),
  to: typed(),
  every: typed(),
  pattern: words(40),
  start: yup.number().strict().required(),
  facts: yup.object().default({}),
})

export const scheduleBody = yup.object({ line: uuid().required(), file: planFile })

/** A file of rows, or one row of a form by its columns. */
const rowCells = () =>
  yup
    .object()
    .test('cells', '${path} holds texts of up to 4000 letters.', (row) =>
      row === null || row === undefined
        ? true
        : Object.values(row).length <= 40 &&
          Object.values(row).every((v) => typeof v === 'string' && v.length <= 4000),
    )

export const listBody = yup.object({
  file: planFile.notRequired().default(null),
  row: rowCells().nullable().default(null),
})

export const correctBody = yup.object({ row: rowCells().required(), reason: words(400) })

export const takeOffBody = yup.object({
  names: yup.array().of(words(120)).min(1).max(500).required(),
  reason: words(400),
})
