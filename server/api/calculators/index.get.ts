import { calculatorsBySubject } from '#core/calculators/registry'
import { openRoute } from '../../http/route'

export default openRoute('GET /api/calculators', {}, async () =>
  Object.entries(calculatorsBySubject).flatMap(([subject, list]) =>
    list.map((c) => ({
      key: c.key,
      title: c.title,
      subject,
      inputs: Object.fromEntries(Object.entries(c.inputs).map(([key, input]) => [key, input.describe])),
      outputs: c.outputs,
      source: c.source,
      cautions: c.cautions,
    })),
  ),
)
