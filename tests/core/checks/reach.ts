import { judge } from '../../../core/judgement/judge'
import { projectSubject } from '../../../core/judgement/projection'
import type { JudgeOptions } from '../../../core/judgement/types'
import { loadProcedure } from '../../../core/procedure/load'
import type { Entry } from '../../../core/record/entry'
import { entry, T0 } from '../entries'

/** A reach with the given checks, one a step by its key, of a pipe of 0.4 m. */
export function reachOf(checks: Record<string, object>, facts: Record<string, number | boolean> = {}) {
  const compiled = loadProcedure(
    JSON.stringify({
      key: 'reach-check',
      title: 'Check of a reach',
      revision: 'A',
      subject: 'reach',
      system: 'embedment',
      material: 'any',
      basis: 'sample',
      cautions: [],
      facts: [
        { key: 'pipe.od', title: 'Outside diameter', dimension: 'length', from: 'pipe' },
        ...Object.keys(facts).map((key) => ({ key, title: key, dimension: 'ratio', from: 'site' })),
      ],
      stages: [
        {
          key: 'work',
          title: 'Work',
          steps: Object.entries(checks).map(([key, check]) => ({
            key,
            title: key,
            instruction: 'As the procedure says.',
            check,
          })),
        },
      ],
    }),
  )
  const known = { 'pipe.od': 0.4, ...facts }
  return {
    compiled,
    judge: (entries: readonly Entry[], options: JudgeOptions = {}, now = T0 + 90 * 86_400_000) =>
      judge(compiled, known, entries, now, options),
    project: (entries: readonly Entry[]) => projectSubject(compiled, known, entries, T0, {}),
  }
}

export const lift = (side: string, thickness: number, more: object = {}, minute = 0) =>
  entry(
    'lifts',
    'lift',
    {
      side,
      thickness,
      passes: 4,
      plant: 'hand',
      material: 'sand',
      moisture: 'damp',
      haunched: true,
      factor: 1,
      ...more,
    },
    minute,
  )
