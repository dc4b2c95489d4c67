import type { Knex } from 'knex'
import { writeCsv } from '#core/files/safe-csv'
import type { Table } from '#core/files/table'
import { headerOf, readList, tableOf, type RowFault } from '#core/plan/lists/define'
import type { ListKey } from '#core/plan/lists/registry'
import { Problem } from '#core/problem'
import { nameKey } from '#core/record/names'
import { inTransaction } from '../../db/connection'
import { deletePlanned, untouched } from '../../db/lists'
import type { Project } from '../../db/projects'
import { noteChange } from '../changes'
import { runHeavy } from '../heavy/run'
import type { SentFile } from '../heavy/table-files'
import { actingRole, type Actor } from '../record'
import * as goods from './goods'
import { groundOf, type ProjectGround } from './ground'
import type { Cell, Keeper } from './keeper'
import * as linesAndMore from './lines'
import * as peopleAndCrews from './people'
import * as plant from './plants'
import * as soil from './soil'
import * as register from './qualifications'
import * as work from './work'

const keepers = {
  ...peopleAndCrews,
  ...linesAndMore,
  ...goods,
  ...soil,
  ...plant,
  ...register,
  ...work,
} as unknown as Record<ListKey, Keeper>

function keeperOf(key: string): Keeper {
  if (!Object.hasOwn(keepers, key))
    throw new Problem('not-found', `There is no list "${key.slice(0, 40)}".`, 'list')
  return keepers[key as ListKey]
}

/** Rows of a file, or the one row of a form. */
export interface ListSent {
  file: SentFile | null
  row: Record<string, string> | null
}

const SHOWN = 200

async function tableFrom(keeper: Keeper, { file, row }: ListSent): Promise<Table> {
  if (file) return runHeavy('table', file)
  if (row) return tableOf(keeper.list, row)
  throw new Problem('missing', 'Give a file or a row.', 'file')
}

async function read(db: Knex, project: Project, keeper: Keeper, table: Table) {
  const ground = await groundOf(db, project)
  const { name } = keeper.list
  const there = name === null ? [] : await keeper.cells(db, project, ground)
  const taken = new Set(there.map((row) => nameKey(String(row[name!]))))
  return { ground, ...readList(keeper.list, table, { ...ground, taken }) }
}

/** Rows of a list as they stand, a page of them. */
export async function listRows(
  db: Knex,
  project: Project,
  actor: Actor,
  key: string,
  from: number,
): Promise<{ total: number; rows: Record<string, Cell>[]; choices: Record<string, string[]> }> {
  const keeper = keeperOf(key)
  actingRole(actor, keeper.list.act)
  const ground = await groundOf(db, project)
  const rows = await keeper.cells(db, project, ground)
  const choices = Object.entries(keeper.list.columns).flatMap(([column, { choices }]) =>
    choices
      ? [[column, [...(typeof choices === 'function' ? choices({ ...ground, taken: new Set() }) : choices)]]]
      : [],
  )
  return {
    total: rows.length,
    rows: rows.slice(from, from + SHOWN),
    choices: Object.fromEntries(choices) as Record<string, string[]>,
  }
}

/** All of a list as a file that can be brought into another project. */
export async function listCsv(db: Knex, project: Project, actor: Actor, key: string): Promise<string> {
  const keeper = keeperOf(key)
  actingRole(actor, keeper.list.act)
  const columns = Object.keys(keeper.list.columns)
  const rows = await keeper.cells(db, project, await groundOf(db, project))
  return writeCsv(
    columns.map(headerOf),
    rows.map((r) => columns.map((c) => r[c] ?? null)),
  )
}

/** What a file would bring, and what is wrong with its rows. Nothing is kept. */
export async function previewList(
  db: Knex,
  project: Project,
  actor: Actor,
  key: string,
  sent: ListSent,
): Promise<{ rows: number; faults: RowFault[]; faulty: number; ignored: string[] }> {
  const keeper = keeperOf(key)
  actingRole(actor, keeper.list.act)
  const { rows, faults, ignored } = await read(db, project, keeper, await tableFrom(keeper, sent))
  return { rows: rows.length, faults: faults.slice(0, SHOWN), faulty: faults.length, ignored }
}

/** Keeps the rows of a file or a form: all of them, or none where a cell is wrong. */
export async function keepList(
  db: Knex,
  project: Project,
  actor: Actor,
  key: string,
  sent: ListSent,
): Promise<{ kept: number; links: { name: string; token: string }[] }> {
  const keeper = keeperOf(key)
  actingRole(actor, keeper.list.act)
  const table = await tableFrom(keeper, sent)
  return inTransaction(db, async (trx) => {
    const { rows, faults, ground } = await read(trx, project, keeper, table)
    if (sent.row && faults[0]) throw new Problem('bad-row', faults[0].message, faults[0].column)
    if (faults.length > 0)
      throw new Problem('bad-rows', `${faults.length} cells are not right: nothing was kept.`, 'file', {
        rows: faults.slice(0, SHOWN),
      })
    if (rows.length === 0) throw new Problem('empty', 'There is no row to keep.', 'file')
    const links = await keeper.keep(trx, project, actor, rows as never[], ground as ProjectGround)
    return { kept: rows.length, links: [...links] }
  })
}

/**
 * Puts a row right that is there, with a reason. What was made of it before keeps what it was made with: the
 * facts of a joint are pinned when it is opened.
 */
export async function correctRow(
  db: Knex,
  project: Project,
  actor: Actor,
  key: string,
  typed: { row: Record<string, string>; reason: string },
): Promise<void> {
  const keeper = keeperOf(key)
  actingRole(actor, keeper.list.act)
  const { list } = keeper
  if (!keeper.correct)
    throw new Problem('fixed', `What stands in ${list.title.toLowerCase()} is not changed here.`, 'list')
  await inTransaction(db, async (trx) => {
    const ground = await groundOf(trx, project)
    const named = nameKey(typed.row[list.name!] ?? '')
    const there = await keeper.cells(trx, project, ground)
    if (!there.some((r) => nameKey(String(r[list.name!])) === named))
      throw new Problem('not-found', `There is no such ${list.one}.`, list.name!)
    const { rows, faults } = readList(list, tableOf(list, typed.row), { ...ground, taken: new Set() })
    if (faults[0]) throw new Problem('bad-row', faults[0].message, faults[0].column)
    await keeper.correct!(trx, project, actor, rows[0] as never, typed.reason)
  })
}

/**
 * Takes rows off the plan: all of them, or none where work hangs on one. What they were stays in the
 * record, with the reason.
 */
export async function takeOff(
  db: Knex,
  project: Project,
  actor: Actor,
  key: string,
  typed: { names: readonly string[]; reason: string },
): Promise<{ taken: number }> {
  const keeper = keeperOf(key)
  actingRole(actor, keeper.list.act)
  const { planned, list } = keeper
  if (!planned)
    throw new Problem('fixed', `What stands in ${list.title.toLowerCase()} is not taken off again.`, 'list')
  const names = [...new Set(typed.names)]
  return inTransaction(db, async (trx) => {
    const ground = await groundOf(trx, project)
    const rows = (await keeper.cells(trx, project, ground)).filter((r) =>
      names.includes(String(r[list.name!])),
    )
    const free = await untouched(trx, project.id, planned, names)
    const bound = names.find((n) => !free.some((f) => f.name === n))
    if (bound !== undefined)
      throw new Problem(
        'in-use',
        `${bound} is not there, or work hangs on it: it stays, or is withdrawn on its own page.`,
        'names',
      )
    await deletePlanned(
      trx,
      planned,
      free.map((f) => f.id),
    )
    await noteChange(trx, actor, keeper.list.act, {
      what: 'taken-off',
      list: key,
      rows,
      reason: typed.reason,
    })
    return { taken: free.length }
  })
}
