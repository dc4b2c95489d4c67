import type { packSheet } from '../../server/services/pack-view'
import type { TraceShown } from '~/charts/trace'
import type { useLiveTest } from './useLiveTest'

/** What of a pack is drawn as its trace: the kept log with its analysis, or what came in so far. */
export function traceShown(
  sheet: Awaited<ReturnType<typeof packSheet>>,
  live: ReturnType<typeof useLiveTest> | null,
): TraceShown {
  const { design, method } = sheet.pack
  const given = design.parameters.band
  const band = typeof given === 'number' && given < 1 ? given : method === 'pe-expansion' ? 0.05 : 0
  const common = { testPressure: design.testPressure, band }
  if (live)
    return {
      ...common,
      ...{ samples: live.trace.value, startedAt: live.run.value?.startedAt ?? null },
      ...{ evaluation: live.run.value?.evaluation ?? null, marks: live.marks.value },
      ...{ trend: null, corrected: null, left: [] },
    }
  const { analysis, log, evaluation, run } = sheet
  return {
    ...common,
    ...{ samples: log?.samples ?? [], startedAt: log?.startedAt ?? null, evaluation },
    marks: run?.marks ?? [],
    trend: analysis?.slope ? { from: analysis.from, to: analysis.to, ...analysis.slope } : null,
    corrected: analysis?.temperature?.corrected ?? null,
    left: analysis?.left ?? [],
  }
}
