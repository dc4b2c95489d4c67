import type { Entry } from '../record/entry'
import type { StepState } from '../checks/verdict'

/**
 * What comes after the pressure test by the procedure, such as closing an insulation gap, waits until one of
 * its section is accepted; what was done before hides what the test would have shown.
 *
 * @param tested when a test was accepted, ms; null where one is planned and none is; left out where none is
 * @returns the state and sentence that the step has instead; null where it may be as it is
 */
export function beforeTheTest(
  last: Pick<Entry, 'recordedAt'> | null,
  tested: number | null | undefined,
): { state: StepState; sentence: string } | null {
  if (tested === undefined) return null
  if (last === null)
    return tested === null
      ? { state: 'blocked', sentence: 'First: the pressure test of this section is accepted.' }
      : null
  if (tested !== null && last.recordedAt >= tested) return null
  return {
    state: tested === null ? 'blocked' : 'rejected',
    sentence:
      tested === null
        ? 'The pressure test of this section is not accepted: what is recorded here does not count before it.'
        : 'Recorded before the pressure test of this section was accepted.',
  }
}
