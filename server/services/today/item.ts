import type { Knex } from 'knex'
import type { Project } from '../../db/projects'
import type { Actor } from '../record'

/** What needs somebody. */
export interface TodayItem {
  kind:
    | 'hold'
    | 'invitation'
    | 'coming'
    | 'draft'
    | 'ncr'
    | 'clock'
    | 'action'
    | 'query'
    | 'concession'
    | 'test'
    | 'delivery'
    | 'lot'
    | 'round'
  /** where a tap goes */
  subject: string
  /** of what is judged: a joint when left out */
  of?: 'reach' | 'pack'
  step: string | null
  title: string
  place: string
  station: number | null
  crew: string | null
  detail: string
  /** ms: since when somebody stands still, or when it falls due */
  since: number | null
  due: number | null
  /** of what is foreseen: between when and when, and on how many joints it rests */
  span?: { from: number; to: number; of: number }
}

export const HOUR = 3_600_000

/** For whom it is asked, and when. */
export interface Asking {
  db: Knex
  project: Project
  actor: Actor
  now: number
  crewName: (id: string | null) => string | null
}

/** Whoever only comes to see sees points and tests. */
export const comesToSee = (actor: Actor): boolean => actor.roles.every((role) => role === 'witness')
