import { rateWords } from '#core/plan/occasions'
import type { PointRule } from '#core/plan/points'
import type { pointMatrix } from '../../server/services/points'
import { partyWords, pointWords } from '~/words'

/** Changes of the inspection plan in words: what each says, of what, by whom. */
export function usePlanChanges(plan: () => Awaited<ReturnType<typeof pointMatrix>> | null) {
  const times = useTimes()
  const name = (id: string | null) => (id === null ? null : (plan()?.names[id] ?? ''))
  const matrixOf = (key: string) => plan()?.matrices.find((m) => m.procedure.key === key)
  const procedureTitle = (key: string) => matrixOf(key)?.procedure.title ?? key
  const stepTitle = (r: PointRule) =>
    r.step === '*'
      ? 'Every point'
      : (matrixOf(r.procedure)?.rows.find((x) => x.step === r.step)?.title ?? r.step)
  /** how far a new crew has come */
  const soFar = ({ id, review }: PointRule) => {
    const made = plan()?.made[id]
    return review?.accepted && made !== undefined ? ` (${made} so far)` : ''
  }
  const says = (r: PointRule) =>
    [
      `${stepTitle(r)}: ${r.point ? pointWords[r.point].toLowerCase() : 'no point'}`,
      r.rate ? rateWords(r.rate) : null,
      `for the ${partyWords[r.party].toLowerCase()}`,
      r.line ? `on ${name(r.line)}` : null,
      r.crew ? `by ${name(r.crew)}` : null,
      `from ${times.date(r.from)}`,
      r.until ? `until ${times.date(r.until)}` : null,
      r.good ? `until ${r.good} in a row were good${soFar(r)}` : null,
    ]
      .filter(Boolean)
      .join(', ')
  return { name, procedureTitle, says }
}
