import { addDays, addMonths, shelfEnd } from '../lots/shelf-life'
import { dayOf, endOfDay, isDay } from '../quantity/day'
import type { Entry } from '../record/entry'
import { nameKey } from '../record/names'
import { answer, day, words } from '../record/payload'
import { defineCheck, type CheckContext, type Made } from './define'
import { formula, text } from './schema'
import { plain, WORD, type LotFacts, type Verdict } from './verdict'

export interface LotCheck {
  kind: 'lot'
  question: string
  shelfLife?: string
  /** whole months from production, by the calendar */
  shelfMonths?: string
  openedLife?: string
}

/** A lot of the register, however its name is spelled. */
export const registeredLot = (lots: Record<string, LotFacts>, name: unknown): LotFacts | undefined =>
  lots[String(name)] ?? lots[nameKey(String(name))]

type LotEnd = { at: number; why: string }

/**
 * When a lot ends by what was typed at the step, and whether a life that the procedure names cannot be
 * worked out.
 */
function typedEnds(
  { formulas }: Made<LotCheck>,
  { payload }: Entry,
  { slots, zone }: CheckContext,
): { ends: LotEnd[]; lacks: boolean } {
  const day = (key: string) => (typeof payload[key] === 'string' && isDay(payload[key]) ? payload[key] : null)
  const number = (key: string) => {
    const formula = formulas[key]
    return formula ? (formula.evaluate(slots) as number) : null
  }
  const [made, expires, opened] = [day('made'), day('expires'), day('opened')]
  const [life, months, openedLife] = [number('shelfLife'), number('shelfMonths'), number('openedLife')]
  const ends: LotEnd[] = []
  const end = (last: string, why: string) => ends.push({ at: endOfDay(last, zone), why })
  // A printed date is good to its end.
  if (expires) end(expires, 'printed expiry')
  if (made && life !== null && !Number.isNaN(life))
    end(addDays(made, Math.floor(life / 86_400)), 'shelf life from production')
  if (made && months !== null && !Number.isNaN(months))
    end(addMonths(made, Math.floor(months)), 'shelf life from production')
  if (opened && openedLife !== null && !Number.isNaN(openedLife))
    end(addDays(opened, Math.floor(openedLife / 86_400)), 'life after opening')
  return { ends, lacks: [life, months, openedLife].some(Number.isNaN) }
}

/**
 * Quarantine first; then the earliest of the printed expiry, production plus shelf life, and opening plus
 * its own life, as typed or as the register has them.
 */
function judge(made: Made<LotCheck>, entry: Entry, context: CheckContext): Verdict {
  const lives = Object.values(made.formulas)
  const register = registeredLot(context.lots, entry.payload.lot)
  const name = `Lot ${String(entry.payload.lot)}`
  if (register?.quarantinedAt != null && entry.recordedAt >= register.quarantinedAt)
    return plain('rejected', `${name} is in quarantine: ${register.reason ?? 'no reason given'}.`)
  const { ends, lacks } = typedEnds(made, entry, context)
  if (lacks)
    return plain('blocked', `How long ${name} is good cannot be worked out: ${context.missing(...lives)}.`)
  const known = register ? shelfEnd(register, context.zone) : null
  if (known) ends.push(known)
  const first = ends.sort((a, b) => a.at - b.at)[0]
  const limited = lives.some((f) => f !== null)
  if (!first && limited) return plain('not-started', `${name}: give its date of production or expiry.`)
  const day = (at: number) => dayOf(at, context.zone)
  if (first && entry.recordedAt > first.at)
    return {
      ...plain('rejected', `${name} expired on ${day(first.at)} (${first.why}): not used without a waiver.`),
      waivable: true,
    }
  // What came late may have been used after its date, or after its quarantine.
  const latest = entry.late ? (entry.receivedAt ?? Infinity) : entry.recordedAt
  if ((first && latest > first.at) || (register?.quarantinedAt != null && latest >= register.quarantinedAt))
    return plain(
      'held',
      `${name}: recorded late, so that nobody can tell whether it was used in time. ${WORD}`,
    )
  return plain('accepted', first ? `${name}, good until ${day(first.at)}.` : `${name}.`)
}

/** A lot of cement, resin or sealant, and whether it was good when it was used. */
export const lot = defineCheck<LotCheck>({
  kind: 'lot',
  schema: {
    question: text().required(),
    shelfLife: formula(),
    shelfMonths: formula(),
    openedLife: formula(),
  },
  answers: { lot: answer({ lot: words(80).required(), expires: day(), made: day(), opened: day() }) },
  compile: (check, compiler) => ({
    formulas: {
      shelfLife: compiler.formula(check.shelfLife, 'shelfLife', 'time'),
      shelfMonths: compiler.formula(check.shelfMonths, 'shelfMonths', 'ratio'),
      openedLife: compiler.formula(check.openedLife, 'openedLife', 'time'),
    },
  }),
  judge,
  describe: {
    rule: (check) =>
      [
        check.question,
        check.shelfLife && `shelf life ${check.shelfLife}`,
        check.shelfMonths && `good for ${check.shelfMonths} months`,
        check.openedLife && `${check.openedLife} once opened`,
      ]
        .filter(Boolean)
        .join(', '),
    entry: ({ lot, made, expires, opened }) =>
      [
        lot,
        made && `made ${String(made)}`,
        expires && `expires ${String(expires)}`,
        opened && `opened ${String(opened)}`,
      ]
        .filter(Boolean)
        .join(', '),
  },
})
