import knex, { type Knex } from 'knex'
import { Problem } from '#core/problem'

export interface DatabaseSettings {
  host: string
  port: number
  user: string
  password: string
  database: string
}

/** Settings of the application's database from the environment that the launcher sets. */
export function databaseSettings(env: NodeJS.ProcessEnv = process.env): DatabaseSettings {
  const need = (key: string) => {
    const value = env[key]
    if (!value) throw new Error(`${key} is not set: start Vet Line with ./vet-line.`)
    return value
  }
  return {
    host: '127.0.0.1',
    port: Number(need('VET_LINE_DB_PORT')),
    user: need('VET_LINE_DB_USER'),
    password: need('VET_LINE_DB_PASSWORD'),
    database: need('VET_LINE_DB_NAME'),
  }
}

export function connect(settings: DatabaseSettings, pool = 8): Knex {
  return knex({
    client: 'mysql2',
    connection: {
      ...settings,
      timezone: 'Z',
      supportBigNumbers: true,
      decimalNumbers: true,
      charset: 'utf8mb4',
      jsonStrings: true,
    } as Knex.MySql2ConnectionConfig,
    pool: { min: 0, max: pool },
  })
}

/** One pool a process. */
let shared: Knex | undefined
export const database = (): Knex => (shared ??= connect(databaseSettings()))

const RETRIED = new Set([1213, 1205, 1047, 1180])
/** Raised by the chain trigger when another entry came first. */
export const CHAIN_MOVED = 31001
/**
 * Raised by the same trigger when a chain is of another project or type, or when there is no such
 * subject.
 */
export const CHAIN_ELSEWHERE = 31002
const LOST = new Set([
  'PROTOCOL_CONNECTION_LOST',
  'ECONNRESET',
  'ECONNREFUSED',
  'EPIPE',
  'ER_SERVER_SHUTDOWN',
])
/**
 * Many may want the head of one chain at once, and one of them wins each time: they are given time, not a
 * number of tries.
 */
const PATIENCE = 10_000

/**
 * Runs a unit of work in one transaction, again as a whole after a deadlock, a lock
 * time-out, a lost race for a chain's head or a lost connection. Work must look up what
 * it may already have written (client-made ids), as a commit can succeed unheard.
 */
export async function inTransaction<T>(db: Knex, work: (trx: Knex.Transaction) => Promise<T>): Promise<T> {
  const start = Date.now()
  for (let attempt = 1; ; attempt++) {
    try {
      return await db.transaction(work)
    } catch (error) {
      const { errno, code } = error as { errno?: number; code?: string }
      // A client-made id opens no record of another kind or project, and learns nothing of it.
      if (errno === CHAIN_ELSEWHERE)
        throw new Problem('id-taken', 'This id is already used for something else.', 'id')
      const again =
        (errno !== undefined && (RETRIED.has(errno) || errno === CHAIN_MOVED)) ||
        (code !== undefined && LOST.has(code))
      if (!again || Date.now() - start > PATIENCE) throw error
      await new Promise((done) => setTimeout(done, Math.min(160, 5 * 2 ** attempt) * (0.5 + Math.random())))
    }
  }
}
