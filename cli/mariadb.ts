import { execFileSync, spawn, spawnSync } from 'node:child_process'
import { closeSync, existsSync, mkdirSync, openSync, readFileSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { join } from 'node:path'
import { userInfo } from 'node:os'
import { connect } from '../server/db/connection'
import { migrate } from '../server/db/migrate'
import { rejudgeAll } from './rejudging'
import { makePlaces, readSettings, writeSettings, type Places, type Settings } from './places'
import { CommandFailure, note } from './say'

/** Nothing is cut, guessed or taken for another value. */
const SQL_MODE = [
  'STRICT_TRANS_TABLES',
  'STRICT_ALL_TABLES',
  'NO_ZERO_DATE',
  'NO_ZERO_IN_DATE',
  'ERROR_FOR_DIVISION_BY_ZERO',
  'NO_ENGINE_SUBSTITUTION',
  'ONLY_FULL_GROUP_BY',
]

const me = () => userInfo().username
const isRoot = () => process.getuid?.() === 0
const has = (command: string) => spawnSync('sh', ['-c', `command -v ${command}`]).status === 0
const find = (command: string) =>
  ['/usr/sbin', '/usr/bin', '/usr/local/sbin', '/usr/local/bin'].map((d) => join(d, command)).find(existsSync)

/** Installs MariaDB from Debian when it is missing; without the right to, says so in one sentence. */
export function ensureInstalled(): void {
  if (find('mariadbd') && find('mariadb-install-db')) return
  const sudo = isRoot()
    ? []
    : has('sudo') && spawnSync('sudo', ['-n', 'true']).status === 0
      ? ['sudo', '-n']
      : null
  if (!sudo || !has('apt-get'))
    throw new CommandFailure(
      'MariaDB is not installed: run "sudo apt-get install mariadb-server" once, then this command again.',
    )
  note('Installing MariaDB from Debian (once) …')
  const run = (...args: string[]) =>
    spawnSync(
      [...sudo, 'env', 'DEBIAN_FRONTEND=noninteractive', 'apt-get', ...args][0]!,
      [...sudo, 'env', 'DEBIAN_FRONTEND=noninteractive', 'apt-get', ...args].slice(1),
      { stdio: ['ignore', 'ignore', 'inherit'] },
    ).status
  run('update', '-qq')
  if (run('install', '-y', '-qq', 'mariadb-server') !== 0 || !find('mariadbd'))
    throw new CommandFailure(
      'MariaDB could not be installed from Debian: run "sudo apt-get install mariadb-server" and try again.',
    )
}

/** As root the server runs as the mysql user where that user can reach the folder, else as root. */
function serverUser(places: Places): string[] {
  if (!isRoot()) return []
  const reachable = spawnSync('runuser', ['-u', 'mysql', '--', 'test', '-x', places.data]).status === 0
  return [`--user=${reachable ? 'mysql' : 'root'}`]
}

function giveTo(places: Places, user: string[]) {
  if (user[0] !== '--user=mysql') return
  execFileSync('chown', ['mysql:mysql', places.run])
  if (existsSync(places.mariadb)) execFileSync('chown', ['-R', 'mysql:mysql', places.mariadb])
}

function initialise(places: Places, user: string[]) {
  if (existsSync(join(places.mariadb, 'mysql'))) return
  rmSync(places.mariadb, { recursive: true, force: true })
  mkdirSync(places.mariadb, { recursive: true })
  giveTo(places, user)
  const made = spawnSync(
    find('mariadb-install-db')!,
    [
      '--no-defaults',
      ...user,
      `--datadir=${places.mariadb}`,
      '--auth-root-authentication-method=socket',
      `--auth-root-socket-user=${me()}`,
      '--skip-test-db',
      '--skip-name-resolve',
      '--force',
    ],
    { encoding: 'utf8' },
  )
  if (made.status !== 0)
    throw new CommandFailure(
      `The database could not be set up in ${places.mariadb}: ${made.stderr.trim().split('\n').at(-1)}`,
    )
}

export const freePort = (wanted = 0): Promise<number> =>
  new Promise((resolve, reject) => {
    const server = createServer()
    server.once('error', reject)
    server.listen(wanted, '127.0.0.1', () => {
      const { port } = server.address() as { port: number }
      server.close(() => resolve(port))
    })
  })

export const alive = (pid: number): boolean => {
  try {
    process.kill(pid, 0)
    return !/^\d+ \([^)]*\) Z/.test(readFileSync(`/proc/${pid}/stat`, 'utf8'))
  } catch {
    return false
  }
}

const pidFile = (places: Places) => join(places.run, 'mariadb.pid')

/** The process id of this folder's database server while it runs. */
export function runningPid(places: Places): number | null {
  try {
    const pid = Number(readFileSync(pidFile(places), 'utf8'))
    return pid && alive(pid) && readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(places.mariadb)
      ? pid
      : null
  } catch {
    return null
  }
}

const sleep = (ms: number) => new Promise((done) => setTimeout(done, ms))

async function answers(settings: Settings, user: string, password: string): Promise<boolean> {
  const db = connect(
    { host: '127.0.0.1', port: settings.databasePort, user, password, database: 'vet_line' },
    1,
  )
  try {
    await db.raw('SELECT 1')
    return true
  } catch {
    return false
  } finally {
    await db.destroy()
  }
}

function sqlAsRoot(places: Places, sql: string) {
  const run = spawnSync(
    find('mariadb')!,
    ['--no-defaults', `--socket=${places.socket}`, `--user=${me()}`, '--batch'],
    { input: sql, encoding: 'utf8' },
  )
  if (run.status !== 0) throw new CommandFailure(`The database refused its set-up: ${run.stderr.trim()}`)
}

function createUsers(places: Places, settings: Settings) {
  const quote = (s: string) => `'${s.replace(/['\\]/g, '')}'`
  sqlAsRoot(
    places,
    `
    CREATE DATABASE IF NOT EXISTS vet_line;
    CREATE USER IF NOT EXISTS 'vet_line_owner'@'127.0.0.1' IDENTIFIED BY ${quote(settings.ownerPassword)};
    ALTER USER 'vet_line_owner'@'127.0.0.1' IDENTIFIED BY ${quote(settings.ownerPassword)};
    GRANT ALL PRIVILEGES ON vet_line.* TO 'vet_line_owner'@'127.0.0.1' WITH GRANT OPTION;
    CREATE USER IF NOT EXISTS 'vet_line'@'127.0.0.1' IDENTIFIED BY ${quote(settings.applicationPassword)};
    ALTER USER 'vet_line'@'127.0.0.1' IDENTIFIED BY ${quote(settings.applicationPassword)};
    GRANT USAGE ON *.* TO 'vet_line'@'127.0.0.1';`,
  )
}

function launch(places: Places, settings: Settings, user: string[]): { pid: number; exited: () => boolean } {
  const log = openSync(join(places.logs, 'mariadb.out'), 'a', 0o600)
  const child = spawn(
    find('mariadbd')!,
    [
      '--no-defaults',
      ...user,
      `--datadir=${places.mariadb}`,
      `--tmpdir=${places.mariadb}`,
      `--socket=${places.socket}`,
      `--pid-file=${pidFile(places)}`,
      '--bind-address=127.0.0.1',
      `--port=${settings.databasePort}`,
      '--skip-name-resolve',
      '--skip-log-bin',
      `--log-error=${join(places.mariadb, 'error.log')}`,
      '--character-set-server=utf8mb4',
      '--collation-server=utf8mb4_unicode_520_ci',
      '--default-time-zone=+00:00',
      '--innodb_flush_log_at_trx_commit=1',
      `--sql-mode=${SQL_MODE.join(',')}`,
      '--transaction-isolation=READ-COMMITTED',
      '--local-infile=0',
      '--max-allowed-packet=64M',
    ],
    { detached: true, stdio: ['ignore', log, log] },
  )
  closeSync(log)
  let gone = false
  child.once('exit', () => (gone = true))
  child.unref()
  return { pid: child.pid!, exited: () => gone }
}

/**
 * Makes sure that this folder's database runs on loopback with its own users and schema.
 * A server left by an earlier run is used again; a taken port is changed for a free one.
 */
export async function ensureDatabase(places: Places): Promise<Settings> {
  ensureInstalled()
  makePlaces(places)
  const settings = readSettings(places)
  if (runningPid(places) && (await answers(settings, 'vet_line_owner', settings.ownerPassword)))
    return settings
  const user = serverUser(places)
  initialise(places, user)
  giveTo(places, user)
  for (let attempt = 1; attempt <= 3; attempt++) {
    settings.databasePort = await freePort(attempt === 1 ? settings.databasePort : 0).catch(() => freePort())
    writeSettings(places, settings)
    if (!runningPid(places)) {
      const server = launch(places, settings, user)
      const deadline = Date.now() + 30_000
      while (!existsSync(places.socket) || !runningPid(places)) {
        if (server.exited() || Date.now() > deadline) break
        await sleep(50)
      }
      if (server.exited()) continue
    }
    // The socket may lie there from a killed server; the set-up itself is the proof that it answers.
    for (let wait = 0; wait < 100; wait++) {
      try {
        createUsers(places, settings)
        break
      } catch (error) {
        if (wait === 99) throw error
        await sleep(100)
      }
    }
    if (await answers(settings, 'vet_line_owner', settings.ownerPassword)) {
      await bringUpToDate(settings)
      return settings
    }
  }
  throw new CommandFailure(`The database does not start; its log is ${join(places.mariadb, 'error.log')}.`)
}

export const ownerConnection = (settings: Settings) =>
  connect(
    {
      host: '127.0.0.1',
      port: settings.databasePort,
      user: 'vet_line_owner',
      password: settings.ownerPassword,
      database: 'vet_line',
    },
    2,
  )
export const applicationConnection = (settings: Settings, pool = 4) =>
  connect(
    {
      host: '127.0.0.1',
      port: settings.databasePort,
      user: 'vet_line',
      password: settings.applicationPassword,
      database: 'vet_line',
    },
    pool,
  )

/** Migrations that came with other rules of judgement. */
const judgesOtherwise = ['005-trust']

async function bringUpToDate(settings: Settings) {
  const owner = ownerConnection(settings)
  try {
    const fresh = await migrate(owner, 'vet_line')
    if (fresh.some((name) => judgesOtherwise.includes(name))) await rejudgeAll(owner)
  } finally {
    await owner.destroy()
  }
}

export async function stopDatabase(places: Places): Promise<boolean> {
  const pid = runningPid(places)
  if (pid === null) return false
  process.kill(pid, 'SIGTERM')
  for (let i = 0; i < 300 && alive(pid); i++) await sleep(100)
  return true
}
