import type { Knex } from 'knex'
import type { PlanList } from '#core/plan/lists/define'
import type { PlannedTable } from '../../db/lists'
import type { Project } from '../../db/projects'
import type { Actor } from '../record'
import type { ProjectGround } from './ground'

/** What stands in a cell of a file. */
export type Cell = string | number | null

/** How somebody who was added comes in, shown once. */
export interface Link {
  name: string
  token: string
}

/** What a row of a list says once it is read. */
export type RowsOf<L> = L extends { check?(row: infer R, ...rest: never[]): void } ? R : never

/** Who keeps a list: reads what is in it, and keeps what a file or a form brings. */
export interface Keeper<R = never> {
  readonly list: PlanList<R>
  /** all of it, a row of cells by column, as a file of it says it */
  cells(db: Knex, project: Project, ground: ProjectGround): Promise<Record<string, Cell>[]>
  /** where its rows are, of what can be taken off the plan again until work hangs on it */
  readonly planned?: PlannedTable
  /** puts a row right that is there; what was worked by it keeps what it pinned */
  correct?(trx: Knex, project: Project, actor: Actor, row: R, reason: string): Promise<void>
  /** keeps rows that were read; returns the links of whoever is new */
  keep(
    trx: Knex,
    project: Project,
    actor: Actor,
    rows: readonly R[],
    ground: ProjectGround,
  ): Promise<readonly Link[]>
}

/** The name of which an id is. */
export const nameOf = (ids: ReadonlyMap<string, string>) => {
  const names = new Map([...ids].map(([name, id]) => [id, name]))
  return (id: string | null): string => (id === null ? '' : (names.get(id) ?? ''))
}
