import { showNumber, showSteps } from '../quantity/show'

/**
 * What the record of a reach holds that bears on how far its pipe was pressed down, as its checks measure
 * it by the way. A figure that nobody recorded is not there.
 */
export interface FillFigures {
  /** mean loose thickness of a lift, m */
  thickness?: number
  /** mean passes of a lift */
  passes?: number
  /** loosest fill found, ratio */
  compaction?: number
  /** lifts compacted before the box was raised */
  boxLate?: number
}

export interface Suspicion {
  key: 'thicker' | 'fewer-passes' | 'looser' | 'struts' | 'box'
  /** with its numbers: it says what was recorded, never that this was why */
  sentence: string
}

const mean = (values: readonly number[]) =>
  values.length === 0 ? null : values.reduce((a, b) => a + b, 0) / values.length
const mm = (si: number) => showSteps(si, 'mm')
const percent = (ratio: number) => `${showNumber(Math.round(ratio * 1000) / 10)} %`

/** A figure, how much it has to differ to be worth a look and in which way, and what is then said. */
const looked: {
  key: Exclude<Suspicion['key'], 'struts' | 'box'>
  figure: Exclude<keyof FillFigures, 'boxLate'>
  worse: 'more' | 'less'
  least: number
  say: (own: number, usual: number) => string
}[] = [
  {
    key: 'thicker',
    figure: 'thickness',
    worse: 'more',
    least: 0.02,
    say: (own, usual) =>
      `Lifts here were ${mm(own - usual)} thicker than elsewhere (${mm(own)} against ${mm(usual)}).`,
  },
  {
    key: 'fewer-passes',
    figure: 'passes',
    worse: 'less',
    least: 0.5,
    say: (own, usual) => `${showNumber(own, 2)} passes a lift here, ${showNumber(usual, 2)} elsewhere.`,
  },
  {
    key: 'looser',
    figure: 'compaction',
    worse: 'less',
    least: 0.015,
    say: (own, usual) => `The loosest fill here stood at ${percent(own)}, elsewhere at ${percent(usual)}.`,
  },
]

/**
 * What sets a reach apart from the others: differences large enough to be looked at, in the order a person
 * would check them. Suspicions, each with its numbers.
 *
 * @param others reaches of the same kind, without this one
 * @param strutsLate struts came out after fill lay over the crown
 */
export function likelyCauses(
  own: FillFigures,
  others: readonly FillFigures[],
  strutsLate: boolean,
): Suspicion[] {
  const found = looked.flatMap(({ key, figure, worse, least, say }): Suspicion[] => {
    const usual = mean(others.flatMap((o) => (o[figure] === undefined ? [] : [o[figure]])))
    const here = own[figure]
    if (here === undefined || usual === null) return []
    const apart = worse === 'more' ? here - usual : usual - here
    return apart >= least - 1e-9 ? [{ key, sentence: say(here, usual) }] : []
  })
  if (strutsLate)
    found.push({ key: 'struts', sentence: 'Struts came out here after fill lay over the crown.' })
  const { boxLate = 0 } = own
  if (boxLate > 0) {
    const lifts = boxLate === 1 ? '1 lift here was' : `${boxLate} lifts here were`
    found.push({ key: 'box', sentence: `${lifts} compacted before the box was raised.` })
  }
  return found
}
