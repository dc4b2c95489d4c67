/**
 * Physical dimensions. A dimension is a vector of exponents over the base
 * kinds below; angles and temperatures are kinds of their own so that adding
 * degrees to metres is refused, and so that °C keeps its offset.
 */
export type Exponents = readonly [
  length: number,
  mass: number,
  time: number,
  temperature: number,
  angle: number,
  current: number,
]

export interface Dimension {
  readonly key: string
  /** What a person calls it in a sentence: "a length". */
  readonly noun: string
  readonly exponents: Exponents
  /** The unit in which values are held (SI; degrees for angles, °C for temperatures). */
  readonly unit: string
}

const define = <K extends string>(rows: Record<K, [noun: string, unit: string, exponents: Exponents]>) =>
  Object.fromEntries(
    Object.entries<[string, string, Exponents]>(rows).map(([key, [noun, unit, exponents]]) => [
      key,
      { key, noun, unit, exponents },
    ]),
  ) as Record<K, Dimension>

export const dimensions = define({
  ratio: ['a ratio', '', [0, 0, 0, 0, 0, 0]],
  length: ['a length', 'm', [1, 0, 0, 0, 0, 0]],
  area: ['an area', 'm²', [2, 0, 0, 0, 0, 0]],
  volume: ['a volume', 'm³', [3, 0, 0, 0, 0, 0]],
  mass: ['a mass', 'kg', [0, 1, 0, 0, 0, 0]],
  time: ['a time', 's', [0, 0, 1, 0, 0, 0]],
  temperature: ['a temperature', '°C', [0, 0, 0, 1, 0, 0]],
  angle: ['an angle', 'deg', [0, 0, 0, 0, 1, 0]],
  pressure: ['a pressure', 'Pa', [-1, 1, -2, 0, 0, 0]],
  force: ['a force', 'N', [1, 1, -2, 0, 0, 0]],
  torque: ['a torque', 'N·m', [2, 1, -2, 0, 0, 0]],
  density: ['a density', 'kg/m³', [-3, 1, 0, 0, 0, 0]],
  unitWeight: ['a unit weight', 'N/m³', [-2, 1, -2, 0, 0, 0]],
  massPerLength: ['a mass per length', 'kg/m', [-1, 1, 0, 0, 0, 0]],
  speed: ['a speed', 'm/s', [1, 0, -1, 0, 0, 0]],
  flow: ['a flow', 'm³/s', [3, 0, -1, 0, 0, 0]],
  voltage: ['a voltage', 'V', [2, 1, -3, 0, 0, -1]],
  resistance: ['a resistance', 'ohm', [2, 1, -3, 0, 0, -2]],
  expansion: ['a thermal expansion', '1/K', [0, 0, 0, -1, 0, 0]],
  pressurePerKelvin: ['a pressure per kelvin', 'Pa/K', [-1, 1, -2, -1, 0, 0]],
})

export type DimensionKey = keyof typeof dimensions

export const sameExponents = (a: Exponents, b: Exponents) =>
  a.every((value, i) => Math.abs(value - b[i]!) < 1e-9)

/**
 * The named dimension with these exponents, or null (torque and energy share theirs: the first listed
 * wins).
 */
export function namedDimension(exponents: Exponents): Dimension | null {
  return Object.values(dimensions).find((d) => sameExponents(d.exponents, exponents)) ?? null
}

/** "a length", or "m²·kg" when the combination has no everyday name. */
export function describeExponents(exponents: Exponents): string {
  const named = namedDimension(exponents)
  if (named) return named.key === 'ratio' ? 'a plain number' : named.noun
  const bases = ['m', 'kg', 's', 'K', 'deg', 'A']
  return exponents
    .map((e, i) => (e === 0 ? '' : bases[i] + (e === 1 ? '' : `^${e}`)))
    .filter(Boolean)
    .join('·')
}
