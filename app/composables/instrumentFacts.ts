import type { InstrumentFacts } from '#core/judgement/types'

/** Instruments of the register as the judge takes them. */
export const instrumentFacts = (list: { id: string; name: string; min: number; max: number; uncertainty: number; calibratedUntil: string }[]): Record<string, InstrumentFacts> =>
  Object.fromEntries(list.map((i) => [i.id, { uncertainty: i.uncertainty, min: i.min, max: i.max, calibratedUntil: Date.parse(i.calibratedUntil), name: i.name }]))
