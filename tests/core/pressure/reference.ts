import { readFileSync } from 'node:fs'
import { evaluateTest, readRequest } from '../../../core/pressure/evaluate'

/** The logs that were worked by an independent program, and what holds them against their method. */
export type Cells = (number | null)[]
export interface Request {
  method: string
  parameters: Record<string, unknown>
  section: Record<string, unknown>
  gauge: { uncertainty: number }
  rows: Cells[]
  events?: { t: number; kind: string }[]
}
/** those that are not refused, by their name */
export const cases = (
  JSON.parse(readFileSync(new URL('../../reference/test-cases.json', import.meta.url), 'utf8')) as {
    id: string
    request: Request
    expect: { error?: string }
  }[]
)
  .filter((c) => !c.expect.error)
  .map(({ id, request }) => [id, request] as const)

export const evaluate = (request: Request) => evaluateTest(readRequest(request))
