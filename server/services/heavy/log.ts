import { readPressureLog } from '#core/pressure/log'
import { evaluateLog, type PackTest, type TestEvaluation } from '#core/pressure/report'

/** A log as it was read, and what the method says of it. */
export interface PackEvaluation {
  startedAt: number
  endedAt: number
  samples: number
  evaluation: TestEvaluation
}

export async function evaluateLogHere({
  csv,
  test,
}: {
  csv: string
  test: PackTest
}): Promise<PackEvaluation> {
  const { startedAt, samples } = readPressureLog(csv)
  const evaluation = evaluateLog(test, samples)
  const endedAt = startedAt + samples.reduce((latest, s) => Math.max(latest, s.t), 0) * 1000
  return { startedAt, endedAt, samples: samples.length, evaluation }
}
