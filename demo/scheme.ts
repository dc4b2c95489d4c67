import type { ProfilePoint } from '../core/pressure/pack'

/** The made-up scheme: two polyethylene lines of it, with what is built into them. */
export const scheme = { key: 'skerry-head', name: 'Skerry Head Water Scheme', zone: 'Europe/Dublin' }

export const PIPE = 12
export const JOINTS = 300

export const risingMain: { key: string; name: string; from: number; to: number; profile: ProfilePoint[] } = {
  key: 'RM',
  name: 'Rising main',
  from: 0,
  to: PIPE * (JOINTS + 1),
  profile: [
    [0, 4.2],
    [180, 3.1],
    [420, 9.4],
    [700, 17.8],
    [960, 15.2],
    [1240, 24.6],
    [1520, 31.0],
    [1760, 27.4],
    [2050, 36.2],
    [2400, 44.9],
    [2700, 41.3],
    [3050, 52.8],
    [3380, 58.1],
    [3612, 62.0],
  ].map(([station, elevation]) => ({ station: station!, elevation: elevation! })),
}
export const branch: typeof risingMain = {
  key: 'SB',
  name: 'Sampling branch',
  from: 0,
  to: 72,
  profile: [
    [0, 9.4],
    [30, 8.8],
    [72, 10.6],
  ].map(([station, elevation]) => ({ station: station!, elevation: elevation! })),
}

export const instruments = [
  {
    name: 'Calliper C-2',
    kind: 'calliper',
    quantity: 'length',
    min: 0,
    max: 1,
    resolution: 0.0001,
    uncertainty: 0.0002,
    days: 140,
  },
  {
    name: 'Steel rule R-1',
    kind: 'rule',
    quantity: 'length',
    min: -0.05,
    max: 1,
    resolution: 0.0005,
    uncertainty: 0.0005,
    days: 300,
  },
  {
    name: 'Micrometer M-4',
    kind: 'micrometer',
    quantity: 'length',
    min: 0,
    max: 0.025,
    resolution: 0.00001,
    uncertainty: 0.00002,
    days: 75,
  },
  {
    name: 'Square and feeler S-3',
    kind: 'square and feeler',
    quantity: 'length',
    min: 0,
    max: 0.02,
    resolution: 0.0001,
    uncertainty: 0.0003,
    days: 210,
  },
  {
    name: 'Depth gauge D-1',
    kind: 'depth gauge',
    quantity: 'length',
    min: 0,
    max: 0.03,
    resolution: 0.00005,
    uncertainty: 0.0001,
    days: -6,
  },
  {
    name: 'Thermometer T-2',
    kind: 'thermometer',
    quantity: 'temperature',
    min: -30,
    max: 80,
    resolution: 0.1,
    uncertainty: 0.5,
    days: 95,
  },
  {
    name: 'Pressure logger P-7',
    kind: 'gauge',
    quantity: 'pressure',
    min: 0,
    max: 25e5,
    resolution: 100,
    uncertainty: 2500,
    days: 160,
  },
  {
    name: 'Low gauge L-2',
    kind: 'low gauge',
    quantity: 'pressure',
    min: -60e3,
    max: 60e3,
    resolution: 10,
    uncertainty: 150,
    days: 210,
  },
  {
    name: 'Nuclear gauge N-1',
    kind: 'density gauge',
    quantity: 'density',
    min: 1000,
    max: 3000,
    resolution: 1,
    uncertainty: 10,
    days: 40,
  },
] as const
