import { standing } from '../judgement/standing'
import type { Entry } from '../record/entry'
import type { TestEvaluation } from './report'

/**
 * A nonconformance drafted from the last evaluation of a test pack that was rejected; null where none
 * was, or the test was started again since.
 */
export function draftOfTest(entries: readonly Entry[]): { criterion: string; reading: string } | null {
  const last = standing(entries).findLast((e) => e.kind === 'evaluation' || e.kind === 'start')
  if (last?.kind !== 'evaluation') return null
  const { verdict, numbers, sentence } = last.payload as unknown as TestEvaluation
  if (verdict !== 'reject') return null
  const culprit = numbers.find((n) => n.verdict === 'reject')
  return {
    criterion: culprit ? `${culprit.title}: ${culprit.formula}` : 'Pressure test',
    reading: culprit?.text ?? sentence,
  }
}
