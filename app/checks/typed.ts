import { unitShown } from '#core/quantity/site-units'
import { Problem } from '#core/problem'
import type { DimensionKey } from '#core/quantity/dimension'
import { readQuantity } from '#core/quantity/read'

/** A quantity as it is typed, SI; null while nothing is, or while it cannot be read. */
export function typedQuantity(text: string, dimension: DimensionKey, bareUnit: string): number | null {
  if (text.trim() === '') return null
  try {
    return readQuantity(text, dimension, { field: 'value', bareUnit: unitShown(bareUnit) })
  } catch (error) {
    if (error instanceof Problem) return null
    throw error
  }
}
