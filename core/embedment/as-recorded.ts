import { writeProcedure } from '../procedure/load'
import type { Procedure } from '../procedure/types'

/** What the embedment of a reach was judged against before reaches had a procedure, SI. */
export interface EarlierCriteria {
  maxLift: number
  minPasses: number
  maxDifference: number
  minCompaction: number
  compactionUncertainty: number
  coverByHand: number
  /** one density test for so many levels of fill */
  liftsPerTest: number
}

export const AS_RECORDED = 'embed-as-recorded'

/**
 * The procedure that says what those criteria said, so that a reach recorded then is judged as it was
 * meant: thickness was booked as laid and counted as compacted, and no plant was named.
 *
 * @returns the document as YAML; equal criteria give equal documents
 */
export function asRecorded(c: EarlierCriteria, revision: string): string {
  const procedure: Procedure = {
    key: AS_RECORDED,
    title: 'Embedment as first recorded',
    revision,
    subject: 'reach',
    system: AS_RECORDED,
    material: 'as recorded',
    basis: 'The criteria that this reach was judged against before embedment had procedures.',
    cautions: ['Nobody goes into a trench that is not supported as the local rules ask.'],
    facts: [{ key: 'pipe.od', title: 'Outside diameter', dimension: 'length', unit: 'mm', from: 'pipe' }],
    options: [],
    tables: [],
    drawings: [],
    gate: 'none',
    stages: [
      {
        key: 'fill',
        title: 'Fill',
        steps: [
          {
            key: 'lifts',
            title: 'Fill beside and over the pipe',
            instruction: 'Lay, tamp under the haunch, compact, side by side.',
            check: {
              kind: 'lifts',
              od: 'pipe.od',
              maxLoose: String(c.maxLift),
              minPasses: String(c.minPasses),
              maxDifference: String(c.maxDifference),
              factor: '1',
              target: `pipe.od + ${c.coverByHand} m`,
            },
          },
          {
            key: 'density',
            title: 'Density of the fill',
            instruction: 'Test the density where the plan says.',
            check: {
              kind: 'density',
              minCompaction: String(c.minCompaction),
              uncertainty: String(c.compactionUncertainty),
              due: `max(1, ceil(lift("low") / ${c.liftsPerTest * c.maxLift} m))`,
            },
          },
        ],
      },
    ],
  }
  return writeProcedure(procedure)
}
