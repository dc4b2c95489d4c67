import { createHash, randomBytes } from 'node:crypto'
import {
  accessSync,
  chmodSync,
  constants,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  statSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { CommandFailure } from './say'

export const root = dirname(dirname(fileURLToPath(import.meta.url)))

/** Everything that a running Vet Line keeps on disk is under one folder. */
export interface Places {
  data: string
  mariadb: string
  run: string
  logs: string
  settings: string
  socket: string
}

export function placesAt(data = process.env.VET_LINE_DATA ?? join(root, 'data')): Places {
  const short = createHash('sha256').update(data).digest('hex').slice(0, 12)
  const own = join(data, 'run', 'mariadb.sock')
  // A socket path may have 107 bytes at most; in a deep folder it moves to the temporary one.
  return {
    data,
    mariadb: join(data, 'mariadb'),
    run: join(data, 'run'),
    logs: join(data, 'logs'),
    settings: join(data, 'settings.json'),
    socket: own.length <= 100 ? own : join(tmpdir(), `vet-line-${short}.sock`),
  }
}

export function makePlaces(places: Places) {
  try {
    for (const folder of [places.data, places.run, places.logs]) mkdirSync(folder, { recursive: true })
    accessSync(places.data, constants.W_OK)
  } catch {
    throw new CommandFailure(
      `The folder ${places.data} cannot be written: make it writable, or name another with VET_LINE_DATA=/some/folder.`,
    )
  }
}

export interface Settings {
  databasePort: number
  httpPort: number
  ownerPassword: string
  applicationPassword: string
  sessionPassword: string
}

const secret = () => randomBytes(24).toString('base64url')

export function readSettings(places: Places): Settings {
  if (existsSync(places.settings)) return JSON.parse(readFileSync(places.settings, 'utf8')) as Settings
  const fresh: Settings = {
    databasePort: 0,
    httpPort: 0,
    ownerPassword: secret(),
    applicationPassword: secret(),
    sessionPassword: secret() + secret(),
  }
  writeSettings(places, fresh)
  return fresh
}

export function writeSettings(places: Places, settings: Settings) {
  const draft = `${places.settings}.new`
  writeFileSync(draft, JSON.stringify(settings, null, 2), { mode: 0o600 })
  chmodSync(draft, 0o600)
  renameSync(draft, places.settings)
}

/** The environment that the application and its tools read. */
export const applicationEnvironment = (settings: Settings): Record<string, string> => ({
  VET_LINE_DB_PORT: String(settings.databasePort),
  VET_LINE_DB_USER: 'vet_line',
  VET_LINE_DB_PASSWORD: settings.applicationPassword,
  VET_LINE_DB_NAME: 'vet_line',
  VET_LINE_SECRET: settings.sessionPassword,
})

/** A digest over what the build is made from; another digest asks for another build. */
export function buildDigest(): string {
  const hash = createHash('sha256')
  const walk = (path: string) => {
    if (!existsSync(path)) return
    if (statSync(path).isFile()) return void hash.update(path.slice(root.length)).update(readFileSync(path))
    for (const name of readdirSync(path).sort()) walk(join(path, name))
  }
  for (const part of ['app', 'build', 'core', 'server', 'public', 'nuxt.config.ts', 'package-lock.json'])
    walk(join(root, part))
  return hash.digest('hex')
}
