import { pausesOf } from '#core/pressure/events'
import { holeInHold, type Hole } from '#core/pressure/holes'
import { lookAtLog, readPressureLog, type LogLook, type PressureLog } from '#core/pressure/log'
import type { LogMap } from '#core/pressure/log-map'
import { eventsOf, type Mark } from '#core/pressure/marks'
import { evaluateLog, type PackTest, type TestEvaluation } from '#core/pressure/report'
import { Problem } from '#core/problem'

/** A log as it was read, and what the method says of it. */
export interface PackEvaluation {
  startedAt: number
  endedAt: number
  samples: number
  evaluation: TestEvaluation
  /** the longest stretch of its phases without a reading, s from its first row */
  hole: Hole | null
}

export interface LogInput {
  csv: string
  map: Partial<LogMap>
  test: PackTest
  marks: Mark[]
}

const extentOf = ({ startedAt, samples }: PressureLog) => ({
  startedAt,
  endedAt: startedAt + samples.reduce((latest, s) => Math.max(latest, s.t), 0) * 1000,
  samples: samples.length,
})

export function evaluateLogHere({ csv, map, test, marks }: LogInput): PackEvaluation {
  const log = readPressureLog(csv, map)
  const events = eventsOf(marks, log.startedAt)
  const evaluation = evaluateLog(test, log.samples, events)
  const hole = holeInHold(log.samples, evaluation.phases, pausesOf(events))
  return { ...extentOf(log), evaluation, hole }
}

/** A file that was looked at: read as far as it can be. */
export interface FileLook extends LogLook {
  read: (Omit<PackEvaluation, 'evaluation' | 'hole'> & { trace: { t: number; pressure: number }[] }) | null
  evaluation: TestEvaluation | null
  /** why it was not read, or not evaluated */
  fault: { message: string; field: string | null; details?: Record<string, unknown> } | null
}

/** so many points show the shape of a log */
const SHAPE = 300

/** Looks at a file: its columns, what a person has to say of them, and what comes of it. */
export function lookAtLogHere({ csv, map, test, marks }: LogInput): FileLook {
  const out: FileLook = { ...lookAtLog(csv, map), read: null, evaluation: null, fault: null }
  if (out.asks.length > 0) return out
  try {
    const log = readPressureLog(csv, out.map)
    const step = Math.ceil(log.samples.length / SHAPE)
    const trace = log.samples.filter((_s, i) => i % step === 0)
    out.read = { ...extentOf(log), trace: trace.map(({ t, pressure }) => ({ t, pressure })) }
    out.evaluation = evaluateLog(test, log.samples, eventsOf(marks, log.startedAt))
  } catch (error) {
    if (!(error instanceof Problem)) throw error
    const { message, field, details } = error
    out.fault = { message, field, ...(details ? { details } : {}) }
  }
  return out
}
