import { readPressureLog } from '#core/pressure/log'
import {
  evaluatePeExpansion,
  type PeExpansionParameters,
  type PipeSection,
  type TestEvaluation,
} from '#core/pressure/pe-expansion'

/** A log as it was read, and what the method says of it. */
export interface PackEvaluation {
  parameters: PeExpansionParameters
  section: PipeSection
  result: { startedAt: number; endedAt: number; samples: number; evaluation: TestEvaluation }
}

export async function evaluateLogHere({
  csv,
  parameters,
  section,
}: {
  csv: string
  parameters: PeExpansionParameters
  section: PipeSection
}): Promise<PackEvaluation['result']> {
  const { startedAt, samples } = readPressureLog(csv)
  const evaluation = evaluatePeExpansion(samples, parameters, section)
  const endedAt = startedAt + samples.reduce((latest, s) => Math.max(latest, s.t), 0) * 1000
  return { startedAt, endedAt, samples: samples.length, evaluation }
}
