import { Problem } from '../problem'
import { readQuantity, writtenDimension } from '../quantity/read'
import type { Input } from './input'

/** A number of whatever dimension: kept as written until the dimension shared by all is known. */
export const anyQuantity = (): Input<unknown> => ({
  describe: { kind: 'quantity', bounds: 'all of one dimension' },
  read(raw, field) {
    if (typeof raw === 'boolean' || (typeof raw === 'object' && raw !== null))
      throw new Problem('not-a-number', `{${field}} must be a number.`, field)
    readQuantity(raw, writtenDimension(raw, field) ?? 'ratio', { field })
    return raw
  },
})
