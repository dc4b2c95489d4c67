import type { FormulaType, RecordFunction } from '../formula/formula'
import type { CheckRecord } from './define'
import { statistics } from './statistics'

/** How the functions that read the record are called, by name. Kinds of checks say what they give. */
export const recordFunctions: ReadonlyMap<string, RecordFunction> = new Map<string, RecordFunction>([
  ['reading', { names: true, which: ['mean', 'min', 'max', 'range'], numbered: true }],
  ['answer', { names: true, which: [] }],
  ['lift', { names: false, which: ['left', 'right', 'low', 'cover'], asOf: true }],
])

const numbersOf = (payload: Record<string, unknown>): number[] =>
  (Array.isArray(payload.values) ? (payload.values as unknown[]) : [payload.count]).filter(
    (v): v is number => typeof v === 'number' && Number.isFinite(v),
  )

/** `reading("step")`: a statistic of the last standing readings or count, or the n-th of them. */
export const readingOfStep = <C>(type: (check: C) => FormulaType): CheckRecord<C> => ({
  type,
  value(_made, entries, which) {
    const last = entries.findLast((e) => e.kind === 'reading' || e.kind === 'count')
    if (!last) return undefined
    const numbers = numbersOf(last.payload)
    if (numbers.length === 0) return undefined
    return typeof which === 'number' ? numbers[which - 1] : statistics[which]!(numbers)
  },
})
