import type { DrawingKey } from '#core/procedure/drawings'

type Values = Record<string, number | string | boolean | null>
export interface BenchDrawing {
  show: DrawingKey
  values: Values
  readings: number[] | null
  angles: number[] | null
  part: string | null
}

type Inputs = Record<string, unknown>
const num = (v: unknown): number | null => (typeof v === 'number' ? v : null)
const list = (v: unknown): number[] | null => (Array.isArray(v) ? (v as number[]) : null)
const spread = (n: number) => Array.from({ length: n }, (_v, i) => (i * 180) / n)
const drawing = (show: DrawingKey, values: Values, more: Partial<BenchDrawing> = {}): BenchDrawing => ({
  show,
  values,
  readings: null,
  angles: null,
  part: null,
  ...more,
})

/** Calculators whose result is better seen than read: what is drawn, from inputs and outputs in SI. */
const drawings: Record<string, (inputs: Inputs, outputs: Inputs) => BenchDrawing | null> = {
  ovality: (i, o) =>
    drawing(
      'ovality',
      { od: num(o.mean) },
      { readings: list(i.diameters), angles: list(i.angles) ?? spread(list(i.diameters)!.length) },
    ),
  'strut-length': (i, o) =>
    drawing('ovality', { od: num(i.insideDiameter), strut: num(o.length) }, { part: 'strut' }),
  'joint-gap': (i) => drawing('gap-clock', { diameter: num(i.diameter) }, { readings: list(i.gaps) }),
  'bolt-sequence': (i) => drawing('bolt-circle', { bolts: num(i.count), pattern: String(i.pattern) }),
  'stab-depth': (i, o) =>
    drawing(
      'socket',
      {
        od: num(i.fittingWidth),
        wall: num(i.fittingWidth)! / 11,
        width: num(i.fittingWidth),
        stab: num(o.stabDepth),
      },
      { part: 'stab' },
    ),
  'scrape-length': (i, o) =>
    drawing(
      'socket',
      {
        od: num(i.fittingWidth),
        wall: num(i.fittingWidth)! / 11,
        width: num(i.fittingWidth),
        scrape: num(o.length),
      },
      { part: 'scrape' },
    ),
  'sight-mark': (i) =>
    drawing(
      'socket-end',
      {
        od: num(i.socketDepth),
        wall: num(i.socketDepth)! / 10,
        depth: num(i.socketDepth),
        mark1: num(i.socketDepth),
        mark2: num(i.socketDepth)! + num(i.offset)!,
      },
      { readings: [num(i.measured)!], part: 'sight' },
    ),
  'corrugation-cut': (i, o) =>
    drawing(
      'corrugation',
      { pitch: num(i.pitch), first: num(i.firstValley), wanted: num(i.wanted), cut: num(o.cut) },
      { part: 'cut' },
    ),
}

/** The drawing of a calculation, or null where none would help. */
export const benchDrawing = (key: string, inputs: Inputs, outputs: Inputs): BenchDrawing | null =>
  drawings[key]?.(inputs, outputs) ?? null
