import type { InstrumentFacts } from './verdict'

/** An instrument of the register, as it is stored and sent. Times are ISO, the rest SI. */
export interface RegisteredInstrument {
  id: string
  name: string
  kind: string
  quantity: string
  min: number
  max: number
  resolution: number
  uncertainty: number
  /** every calibration, oldest first */
  calibrations: { from: string; until: string; certificate: string | null }[]
  /** the end of the last one; the beginning of time where there is none */
  calibratedUntil: string
}

/** Instruments of the register as the judge takes them, by id. */
export const instrumentFacts = (list: readonly RegisteredInstrument[]): Record<string, InstrumentFacts> =>
  Object.fromEntries(
    list.map((i) => [
      i.id,
      {
        name: i.name,
        uncertainty: i.uncertainty,
        min: i.min,
        max: i.max,
        calibrated: i.calibrations.map((c) => ({ from: Date.parse(c.from), until: Date.parse(c.until) })),
      },
    ]),
  )

/**
 * Whether an instrument was in calibration at a moment: a later calibration does not cure an earlier
 * reading.
 */
export const calibratedAt = (instrument: InstrumentFacts, at: number): boolean =>
  instrument.calibrated.some((c) => c.from <= at && at <= c.until)

const DAY = 86_400_000
/** days before the end of a calibration from which it is to be seen to */
export const SOON = 30

export interface Calibration {
  state: 'never' | 'out' | 'soon' | 'good'
  /** whole days until it ends, below 0 after it; null where there was none */
  days: number | null
}

/** How the calibration of an instrument stands at a moment (ms), as whoever keeps the register needs it. */
export function calibrationOf(
  { calibrations, calibratedUntil }: Pick<RegisteredInstrument, 'calibrations' | 'calibratedUntil'>,
  at: number,
): Calibration {
  if (calibrations.length === 0) return { state: 'never', days: null }
  const days = Math.floor((Date.parse(calibratedUntil) - at) / DAY)
  return { state: days < 0 ? 'out' : days <= SOON ? 'soon' : 'good', days }
}

/**
 * What the register says of the instruments that a procedure names: which are in calibration. Null where it
 * names none, or where of one of its kinds none is.
 *
 * @param kinds as the checks name them
 * @param at ms
 */
export function knownCalibrated(
  kinds: readonly string[],
  list: readonly RegisteredInstrument[],
  at: number,
): string | null {
  const good = list.filter((i) => calibratedAt(instrumentFacts([i])[i.id]!, at))
  const named = [...new Set(kinds)].map((kind) => good.find((i) => i.kind === kind))
  if (named.length === 0 || named.includes(undefined)) return null
  return `${named.map((i) => i!.name).join(', ')} in calibration.`
}

/**
 * Why readings with an instrument do not count, or null when they do.
 *
 * @param values SI, of the instrument's quantity
 */
export function instrumentFault(
  instrument: InstrumentFacts | undefined,
  values: readonly number[],
  at: number,
): string | null {
  if (!instrument) return 'The reading does not count: its instrument is not in the register.'
  if (!calibratedAt(instrument, at))
    return `The reading does not count: ${instrument.name} was out of calibration.`
  if (values.some((v) => v < instrument.min || v > instrument.max))
    return `The reading does not count: it is outside the range of ${instrument.name}.`
  return null
}
