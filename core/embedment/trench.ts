import type { Fill } from '../checks/lifts'
import type { FactValue } from '../formula/formula'
import { byStep } from '../judgement/standing'
import type { CompiledProcedure } from '../procedure/compile'
import type { Entry } from '../record/entry'

export type Support = 'none' | 'sloped' | 'shored' | 'box'

/** What stands around the fill of a reach, as far as its record and facts say it. Metres. */
export interface Trench {
  depth: number | null
  width: number | null
  bed: number | null
  support: Support | null
  /** foot of the box over the bottom of the trench */
  boxFoot: number | null
  /** null where the pipe has none */
  struts: 'in' | 'out' | null
  /** a layer of stone lies under the bed */
  stones: boolean
  /** somebody said that water stands below the bed; null while nobody has looked */
  dry: boolean | null
}

/**
 * Where the foot of the box hangs now, over the bottom of the trench, m: as it was set, and since then over
 * the last lift before which it was raised.
 */
export const boxFootNow = (trench: Pick<Trench, 'boxFoot'>, fill: Pick<Fill, 'lifts'>, bed: number): number =>
  Math.max(
    trench.boxFoot ?? 0,
    ...fill.lifts
      .filter((l) => l.payload.raised)
      .map((l) => bed + Math.max(l.left?.[1] ?? 0, l.right?.[1] ?? 0)),
  )

const SUPPORTS: readonly unknown[] = ['none', 'sloped', 'shored', 'box']

/** The parts of the trench, each by the step of the shipped procedures that asks for it. */
export function trenchOf(
  compiled: CompiledProcedure,
  facts: Record<string, FactValue>,
  entries: readonly Entry[],
): Trench {
  const steps = byStep(compiled, entries)
  const last = (key: string, kind: Entry['kind']) => {
    const at = compiled.stepIndex.get(key)
    return at === undefined ? undefined : steps[at]!.findLast((e) => e.kind === kind)?.payload
  }
  const smallest = (key: string) => {
    const values = last(key, 'reading')?.values
    const numbers = (Array.isArray(values) ? values : []).filter((v): v is number => Number.isFinite(v))
    return numbers.length === 0 ? null : numbers.reduce((a, b) => Math.min(a, b))
  }
  const said = (key: string) => last(key, 'confirmation')?.answer
  const number = (key: string) => {
    const value = facts[key]
    return typeof value === 'number' && Number.isFinite(value) ? value : null
  }
  const support = last('support', 'choice')?.choice
  const water = said('water')
  return {
    depth: number('site.depth'),
    width: smallest('trench-width'),
    bed: smallest('bed-thickness') ?? number('site.bed'),
    support: SUPPORTS.includes(support) ? (support as Support) : null,
    boxFoot: smallest('box-bottom'),
    struts: facts['pipe.strutted'] !== true ? null : said('struts-out') === 'yes' ? 'out' : 'in',
    stones: said('stone-layer') === 'yes',
    dry: water === undefined ? null : water === 'yes',
  }
}
