import { Problem } from '../problem'

/** The gauge of a test: expanded uncertainty and steps in Pa, and of its water meter as a share. */
export interface Gauge {
  uncertainty: number
  resolution: number
  meterUncertainty: number
}

/** @throws Problem naming `uncertainty` when it is not given, or `gauge` */
export function readGauge(raw: unknown): Gauge {
  const given = (raw ?? {}) as Record<string, unknown>
  if (typeof given !== 'object' || Array.isArray(given))
    throw new Problem('bad-gauge', 'The gauge must be an object.', 'gauge')
  const known = ['uncertainty', 'resolution', 'meterUncertainty']
  const stray = Object.keys(given).find((key) => !known.includes(key))
  if (stray) throw new Problem('unknown-key', `A gauge has no "${stray}".`, 'gauge')
  const number = (key: string, absent: number | null) => {
    const value = given[key]
    if (value === undefined || value === null) {
      if (absent === null) throw new Problem('missing', `The ${key} of the gauge is missing.`, key)
      return absent
    }
    if (typeof value !== 'number' || !Number.isFinite(value) || value < 0)
      throw new Problem('out-of-bounds', `The ${key} of the gauge must be a number of at least 0.`, key)
    return value
  }
  return {
    uncertainty: number('uncertainty', null),
    resolution: number('resolution', 0),
    meterUncertainty: number('meterUncertainty', 0.02),
  }
}
