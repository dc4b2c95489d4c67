import { answering } from '../checks/registry'
import { indicesOf, type CompiledProcedure } from '../procedure/compile'
import type { Entry } from '../record/entry'
import { nameKey } from '../record/names'
import { inOrder } from '../record/order'

function corrected(entries: readonly Entry[]): boolean {
  for (const { kind } of entries) if (kind === 'correction') return true
  return false
}

/**
 * Entries that stand: those that no correction strikes, without the corrections. A struck correction no
 * longer strikes.
 */
export function standing(entries: readonly Entry[]): readonly Entry[] {
  const ordered = inOrder(entries)
  if (!corrected(entries)) return ordered
  const corrections = ordered.filter((e) => e.kind === 'correction')
  const struck = new Set<string>()
  // Later corrections are read first, so that one which strikes another correction takes its effect away.
  for (const correction of corrections.reverse())
    if (!struck.has(correction.id)) struck.add(String(correction.payload.strikes))
  return ordered.filter((e) => e.kind !== 'correction' && !struck.has(e.id))
}

/** Where an answer that stands at this subject was given: at another one, of the same crew and day. */
export interface OnceAnswered {
  entry: string
  subject: string
  /** the name of that subject */
  at: string
  /** ms */
  answeredAt: number
  rests?: { step: string; lot: string }
}

const NOTHING: readonly Entry[] = []
const NONE_STRUCK: ReadonlyMap<number, readonly Entry[]> = new Map()

/**
 * Answers of each step that a correction of somebody who is no inspector strikes: they were seen, and
 * count no more.
 */
export function struckByCrew(
  compiled: Pick<CompiledProcedure, 'stepIndex' | 'names'>,
  entries: readonly Entry[],
): ReadonlyMap<number, readonly Entry[]> {
  if (!corrected(entries)) return NONE_STRUCK
  const out = new Map<number, Entry[]>()
  const corrections = entries.filter((e) => e.kind === 'correction' && e.role !== 'inspector')
  if (corrections.length === 0) return out
  const stands = new Set(standing(entries))
  for (const correction of corrections) {
    const struck = entries.find((e) => e.id === correction.payload.strikes)
    if (struck?.step == null || !answering.has(struck.kind) || stands.has(struck)) continue
    for (const index of indicesOf(compiled, struck.step)) {
      const known = out.get(index)
      if (!known) out.set(index, [struck])
      else if (!known.includes(struck)) known.push(struck)
    }
  }
  return out
}

/**
 * Steps that an entry stands at. One without a step, as lifts were written before reaches had a procedure,
 * stands where alone its kind is asked.
 */
function placesOf(compiled: Pick<CompiledProcedure, 'steps' | 'stepIndex' | 'names'>, entry: Entry) {
  if (entry.step !== null) return indicesOf(compiled, entry.step)
  const asked = compiled.steps.filter(
    ({ definition: { judgeAll, takes } }) => judgeAll !== undefined && takes.has(entry.kind),
  )
  return asked.length === 1 ? [asked[0]!.index] : []
}

/** Standing entries by the index of the step they were recorded at; entries of unknown steps are left out. */
export function byStep(
  compiled: Pick<CompiledProcedure, 'steps' | 'stepIndex' | 'names'>,
  entries: readonly Entry[],
): readonly (readonly Entry[])[] {
  const out: (readonly Entry[])[] = []
  for (let i = 0; i < compiled.steps.length; i++) out.push(NOTHING)
  const put = (index: number, entry: Entry) => {
    if (out[index] === NOTHING) out[index] = [entry]
    else (out[index] as Entry[]).push(entry)
  }
  for (const entry of standing(entries)) {
    // Nearly every entry names its one step; looking it up makes no list.
    const index = entry.step === null ? undefined : compiled.stepIndex.get(entry.step)
    if (index !== undefined) put(index, entry)
    else for (const place of placesOf(compiled, entry)) put(place, entry)
  }
  for (const { index, once } of compiled.steps)
    if (once?.lot != null && out[index]!.length > 0) out[index] = restingOn(out[once.lot]!, out[index]!)
  return out
}

/** Answers that were given once for a lot count while that lot is still the one in use. */
function restingOn(lots: readonly Entry[], answers: readonly Entry[]): readonly Entry[] {
  const lot = lots.findLast((e) => e.kind === 'lot')
  const inUse = lot && nameKey(String(lot.payload.lot))
  return answers.filter(({ payload }) => {
    const rests = (payload.once as OnceAnswered | undefined)?.rests
    return rests === undefined || nameKey(rests.lot) === inUse
  })
}
