import type { Slots } from '../formula/formula'
import type { CheckParts } from './define'

/** What formulas of a check come to, SI; NaN where a figure is missing. */
export const figuresOf = <K extends string>(
  { formulas }: Pick<CheckParts, 'formulas'>,
  slots: Slots,
  ...keys: readonly K[]
): Record<K, number> =>
  Object.fromEntries(keys.map((key) => [key, formulas[key]!.evaluate(slots) as number])) as Record<K, number>
