import * as yup from 'yup'
import { answer } from '#core/calculators/define'
import { findCalculator } from '#core/calculators/registry'
import { openRoute } from '../../http/route'

const body = yup.object({ inputs: yup.object().required() })

export default openRoute('POST /api/calculators/:key', { body }, async ({ params, body }) =>
  answer(findCalculator(params.key), body.inputs as Record<string, unknown>),
)
