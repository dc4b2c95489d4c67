import type { Knex } from 'knex'
import { instrumentFacts } from '#core/checks/instruments'
import type { JudgeOptions } from '#core/judgement/types'
import { sectionMethods } from '#core/pressure/methods/registry'
import { pointsFor, type Points } from '#core/plan/points'
import type { Occasion } from '#core/plan/occasions'
import { isDrawn, ratesFor } from '#core/plan/surveillance'
import { ends } from '#core/procedure/ends'
import type { CompiledProcedure } from '#core/procedure/compile'
import type { LotFacts } from '#core/checks/verdict'
import type { Entry } from '#core/record/entry'
import { nameKey } from '#core/record/names'
import { instrumentsOf } from '../db/instruments'
import { limitedLots, type Lot } from '../db/lots'
import type { Project } from '../db/projects'
import { testedOver } from '../db/packs'
import { dayOf } from '#core/quantity/day'

/** Lots of the register as the judge takes them, by the key of their name. */
export const lotFacts = (lots: readonly Lot[]): Record<string, LotFacts> =>
  Object.fromEntries(
    lots.map(({ lot, made, expires, opened, shelfMonths, openedDays, quarantinedAt, reason }) => [
      nameKey(lot),
      {
        made,
        expires,
        opened,
        shelfMonths,
        openedDays,
        quarantinedAt: quarantinedAt === null ? null : Date.parse(quarantinedAt),
        reason,
      },
    ]),
  )

/** What of a subject decides which points it has. */
export interface Placed {
  id?: string
  alignment: string
  crew: string | null
  openedAt: string | null
  /** m; of a joint */
  station?: number
  /** what beginning it was the occasion of */
  occasions?: readonly Occasion[]
  /** rules for new crews that its crew had worked its way out of */
  passed?: readonly string[]
}

/** What the plan tells subjects apart by. */
export function whereOf(project: Project, subject: Placed) {
  const opened = subject.openedAt === null ? Date.now() : Date.parse(subject.openedAt)
  const { alignment: line, crew, passed = [] } = subject
  return { line, crew, day: dayOf(opened, project.zone), passed }
}

/** The points of a procedure as they count for a subject: by its line, its crew and the day it was opened. */
export function pointsOf(
  project: Project,
  { procedure }: Pick<CompiledProcedure, 'procedure'>,
  subject: Placed,
): Points {
  return pointsFor(
    project.settings.points ?? [],
    procedure.key,
    procedure.stages.flatMap((s) => s.steps),
    project.settings.plan[procedure.key] ?? {},
    whereOf(project, subject),
  )
}

/** Steps of a subject that are drawn to be watched; nothing where it has no step under surveillance. */
export function drawnOf(
  project: Project,
  { procedure, names }: Pick<CompiledProcedure, 'procedure' | 'names'>,
  subject: Placed & { id: string },
): string[] {
  const rates = ratesFor(
    project.settings.points ?? [],
    procedure.key,
    procedure.stages.flatMap((s) => s.steps),
    project.settings.plan[procedure.key] ?? {},
    whereOf(project, subject),
  )
  // A step that is made at each end is drawn for each.
  return Object.entries(rates).flatMap(([key, rates]) =>
    (names.both.has(key) ? ends.map((end) => `${key}@${end}`) : [key]).filter((k) =>
      rates.some((rate) => isDrawn(subject.id, k, rate, subject.occasions)),
    ),
  )
}

/** What the judge needs to know that is of one subject: its points, and when its section was tested. */
export async function ofSubject(
  db: Knex,
  project: Project,
  compiled: CompiledProcedure,
  subject: Placed,
): Promise<Pick<JudgeOptions, 'plan' | 'beside' | 'tested' | 'drawn'>> {
  const tested = await testedAt(db, project.id, compiled, subject)
  const { id } = subject
  return {
    ...pointsOf(project, compiled, subject),
    ...(tested === undefined ? {} : { tested }),
    ...(id === undefined ? {} : { drawn: drawnOf(project, compiled, { ...subject, id }) }),
  }
}

/** When a test over a joint was accepted first; left out where nothing of its procedure waits for one. */
async function testedAt(
  db: Knex,
  project: string,
  { steps }: CompiledProcedure,
  { alignment, station }: Placed,
): Promise<number | null | undefined> {
  if (station === undefined || !steps.some((s) => s.afterTest)) return undefined
  return testedOver(db, project, alignment, station, sectionMethods)
}

type Registers = Required<Pick<JudgeOptions, 'instruments' | 'lots'>>

/** Instruments and lots of a project; of entries only those that they name. */
async function registersOf(db: Knex, project: Project, entries?: readonly Entry[]): Promise<Registers> {
  const distinct = (names: readonly unknown[]) => [
    ...new Set(names.filter((n): n is string => typeof n === 'string')),
  ]
  const [instruments, lots] = await Promise.all([
    instrumentsOf(db, project.id, entries && distinct(entries.map((e) => e.instrument))),
    limitedLots(db, project.id, entries && distinct(entries.map((e) => e.payload.lot))),
  ])
  return { instruments: instrumentFacts(instruments), lots: lotFacts(lots) }
}

const optionsWith = (project: Project, procedureKey: string, registers: Registers): JudgeOptions => ({
  rule: project.settings.rule,
  zone: project.zone,
  units: project.settings.units ?? 'as-written',
  schools: project.settings.schools[procedureKey] ?? {},
  plan: project.settings.plan[procedureKey] ?? {},
  ...(project.settings.notice === undefined ? {} : { notice: project.settings.notice }),
  ...registers,
})

/**
 * What the judge needs to know of a project for one procedure, but for the points of one subject
 * (`pointsOf`).
 *
 * @param entries when the judge will see no others: only the lots and instruments that they name are read
 */
export const judgeOptions = async (
  db: Knex,
  project: Project,
  procedureKey: string,
  entries?: readonly Entry[],
): Promise<JudgeOptions> => optionsWith(project, procedureKey, await registersOf(db, project, entries))

/** Options of the judge for many subjects of a project, whose instruments and lots are read once. */
export class KnownOptions {
  private registers: Promise<Registers> | null = null
  constructor(
    private readonly db: Knex,
    private readonly project: Project,
  ) {}
  async of(compiled: CompiledProcedure, subject: Placed): Promise<JudgeOptions> {
    const { db, project } = this
    this.registers ??= registersOf(db, project)
    return {
      ...optionsWith(project, compiled.procedure.key, await this.registers),
      ...(await ofSubject(db, project, compiled, subject)),
    }
  }
}
