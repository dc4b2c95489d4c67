import { checkDigit } from '../core/delivery/gs1'
import type { ItemLimit } from '../core/delivery/inspection'

/** An article number of our own making, with its check digit. */
const gtin = (n: number) => {
  const digits = `0952${String(n).padStart(9, '0')}`
  return digits + checkDigit(digits)
}

/**
 * What is measured on an arriving polyethylene pipe: sample tolerances by outside diameter and wall,
 * metres.
 */
const pipeLimits = (od: number, wall: number): ItemLimit[] => [
  {
    key: 'od',
    title: 'Outside diameter',
    kind: 'measure',
    dimension: 'length',
    unit: 'mm',
    readings: 2,
    of: 'mean',
    min: od,
    max: od * 1.006 + 0.0002,
    where: 'by girth or at right angles, 300 mm from the end',
  },
  {
    key: 'wall',
    title: 'Wall',
    kind: 'measure',
    dimension: 'length',
    unit: 'mm',
    readings: 4,
    of: 'each',
    min: wall,
    max: wall * 1.1 + 0.0002,
    where: '12, 3, 6 and 9 o’clock',
  },
  {
    key: 'ovality',
    title: 'Out of round',
    kind: 'measure',
    dimension: 'length',
    unit: 'mm',
    readings: 4,
    of: 'range',
    min: null,
    max: od * 0.02,
    where: '0, 45, 90 and 135°',
  },
]
const couplerLimits: ItemLimit[] = [
  {
    key: 'bag',
    title: 'Profile gauge',
    kind: 'go',
    where: 'in the mouth of the coupler, bag closed again at once',
  },
]

interface Article {
  item: string
  title: string
  kind: 'pipe' | 'fitting' | 'consumable'
  pressureClass: string
  facts: Record<string, number>
  gtin: string
  limits: ItemLimit[]
  /** kg */
  mass: number | null
  shelfMonths: number | null
  openedDays: number | null
}

const pipe = (item: string, title: string, od: number, wall: number, n: number): Article => ({
  item,
  title,
  kind: 'pipe',
  pressureClass: 'SDR 11',
  facts: { 'pipe.od': od, 'pipe.wall': wall, 'pipe.rating': 16e5 },
  gtin: gtin(n),
  limits: pipeLimits(od, wall),
  mass: Math.round((Math.PI / 4) * (od ** 2 - (od - 2 * wall) ** 2) * 12 * 958 * 10) / 10,
  shelfMonths: null,
  openedDays: null,
})
const coupler = (
  item: string,
  title: string,
  n: number,
  mass: number,
  facts: Record<string, number>,
): Article => ({
  item,
  title,
  kind: 'fitting',
  pressureClass: 'SDR 11',
  facts: { ...facts, 'fitting.rating': 16e5 },
  gtin: gtin(n),
  limits: couplerLimits,
  mass,
  shelfMonths: null,
  openedDays: null,
})
const consumable = (
  item: string,
  title: string,
  pressureClass: string,
  n: number,
  mass: number | null,
  shelfMonths: number | null,
  openedDays: number | null,
): Article => ({
  item,
  title,
  kind: 'consumable',
  pressureClass,
  facts: {},
  gtin: gtin(n),
  limits: [],
  mass,
  shelfMonths,
  openedDays,
})

export const catalogue = [
  pipe('PE-315-11', 'PE pipe 315 mm SDR 11, 12 m', 0.315, 0.0286, 101),
  coupler('EFC-315', 'Electrofusion coupler 315 mm', 201, 7.4, {
    'fitting.width': 0.24,
    'fitting.stop': 0.118,
    'fitting.fusionTime': 480,
    'fitting.coolingTime': 1800,
    'fitting.sdrMin': 9,
    'fitting.sdrMax': 17,
    'fitting.bore': 0.315,
  }),
  pipe('PE-63-11', 'PE pipe 63 mm SDR 11, 12 m', 0.063, 0.0058, 102),
  coupler('EFC-63', 'Electrofusion coupler 63 mm', 202, 0.3, {
    'fitting.width': 0.096,
    'fitting.stop': 0.047,
    'fitting.fusionTime': 40,
    'fitting.coolingTime': 180,
    'fitting.sdrMin': 9,
    'fitting.sdrMax': 17,
    'fitting.bore': 0.063,
  }),
  consumable('CEM-CPVC', 'Solvent cement, heavy body, 0.5 l', 'grade H', 301, 0.6, 24, 30),
  consumable('PRI-PVC', 'Primer, 0.5 l', 'grade P', 302, 0.5, 36, 60),
  consumable('GSK-600', 'Profile gasket DN 600', 'EPDM', 303, 1.9, 60, null),
  consumable('SEA-BUT', 'Butyl sealant strip, 25 mm', 'class 1', 304, 4.5, 24, null),
  consumable('LUB-W', 'Joint lubricant, water grade, 2 kg', 'water', 305, 2, 36, null),
] as const satisfies readonly Article[]
