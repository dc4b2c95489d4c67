import type { DimensionKey } from './dimension'

export interface Unit {
  readonly symbol: string
  readonly dimension: DimensionKey
  /** value in SI = written · factor + offset */
  readonly factor: number
  readonly offset: number
}

const INCH = 0.0254
const FOOT = 12 * INCH
const POUND = 0.45359237
const POUND_FORCE = POUND * 9.80665
const GALLON = 231 * INCH ** 3

type Row = [symbols: string, factor: number, offset?: number]
const rows: Partial<Record<DimensionKey, Row[]>> = {
  length: [
    ['m', 1],
    ['mm', 1e-3],
    ['cm', 1e-2],
    ['km', 1e3],
    ['µm um', 1e-6],
    ['in inch inches "', INCH],
    ["ft foot feet '", FOOT],
  ],
  area: [
    ['m² m2 m^2', 1],
    ['cm² cm2', 1e-4],
    ['mm² mm2', 1e-6],
    ['in² in2', INCH ** 2],
    ['ft² ft2', FOOT ** 2],
  ],
  volume: [
    ['m³ m3 m^3', 1],
    ['L l litre litres liter liters', 1e-3],
    ['mL ml', 1e-6],
    ['cm³ cm3', 1e-6],
    ['gal', GALLON],
    ['ft³ ft3', FOOT ** 3],
  ],
  mass: [
    ['kg', 1],
    ['g', 1e-3],
    ['t', 1e3],
    ['lb lbs', POUND],
  ],
  time: [
    ['s sec', 1],
    ['min', 60],
    ['h hr', 3600],
    ['d day days', 86400],
    ['ms', 1e-3],
  ],
  temperature: [
    ['°C degC C', 1],
    ['°F degF F', 5 / 9, -160 / 9],
  ],
  angle: [
    ['deg ° degrees', 1],
    ['rad', 180 / Math.PI],
  ],
  pressure: [
    ['Pa', 1],
    ['kPa', 1e3],
    ['MPa', 1e6],
    ['GPa', 1e9],
    ['bar', 1e5],
    ['mbar', 100],
    ['psi', POUND_FORCE / INCH ** 2],
    ['N/mm² N/mm2', 1e6],
    ['N/m² N/m2', 1],
  ],
  force: [
    ['N', 1],
    ['kN', 1e3],
    ['MN', 1e6],
    ['lbf', POUND_FORCE],
  ],
  torque: [
    ['N·m N.m N*m Nm N⋅m', 1],
    ['kN·m kNm', 1e3],
    ['ft·lbf ft.lbf ft*lbf ft-lbf ft⋅lbf ftlbf lbf·ft lbf.ft lbf-ft', FOOT * POUND_FORCE],
  ],
  density: [
    ['kg/m³ kg/m3 kg/m^3', 1],
    ['g/cm³ g/cm3 g/mL', 1e3],
    ['t/m³ t/m3', 1e3],
    ['lb/ft³ lb/ft3 pcf', POUND / FOOT ** 3],
  ],
  unitWeight: [
    ['N/m³ N/m3 N/m^3', 1],
    ['kN/m³ kN/m3 kN/m^3', 1e3],
    ['lbf/ft³ lbf/ft3', POUND_FORCE / FOOT ** 3],
  ],
  massPerLength: [
    ['kg/m', 1],
    ['lb/ft', POUND / FOOT],
  ],
  speed: [
    ['m/s', 1],
    ['mm/s', 1e-3],
    ['km/h', 1 / 3.6],
    ['ft/s', FOOT],
  ],
  flow: [
    ['m³/s m3/s', 1],
    ['L/s', 1e-3],
    ['L/min', 1e-3 / 60],
    ['L/h', 1e-3 / 3600],
    ['m³/h m3/h', 1 / 3600],
    ['gal/min gpm', GALLON / 60],
    ['gal/h gph', GALLON / 3600],
  ],
  voltage: [
    ['V', 1],
    ['kV', 1e3],
    ['mV', 1e-3],
  ],
  resistance: [
    ['ohm Ω', 1],
    ['kohm kΩ', 1e3],
    ['Mohm MΩ', 1e6],
  ],
  expansion: [
    ['1/K /K 1/°C /°C', 1],
    ['1/°F /°F', 9 / 5],
  ],
  pressurePerKelvin: [
    ['Pa/K', 1],
    ['kPa/K', 1e3],
  ],
  ratio: [
    ['%', 0.01],
    ['‰', 0.001],
  ],
}

const bySymbol = new Map<string, Unit>()
for (const [dimension, list] of Object.entries(rows)) {
  for (const [symbols, factor, offset = 0] of list) {
    const all = symbols.split(' ')
    for (const symbol of all)
      bySymbol.set(symbol, { symbol: all[0]!, dimension: dimension as DimensionKey, factor, offset })
  }
}

/**
 * The unit written so, or null. Case matters (mm is not MM), superscripts and their plain spellings are
 * equal.
 */
export const findUnit = (symbol: string): Unit | null => bySymbol.get(symbol) ?? null

/** Every spelling with its unit, for documentation and for the formula reader. */
export const unitSpellings = (): ReadonlyMap<string, Unit> => bySymbol

/** The units a person may choose for a dimension, SI first. */
export const unitsOf = (dimension: DimensionKey): string[] =>
  (rows[dimension] ?? []).map(([symbols]) => symbols.split(' ')[0]!)

export const toSi = (value: number, unit: Unit) => value * unit.factor + unit.offset
export const fromSi = (value: number, unit: Unit) => (value - unit.offset) / unit.factor
