import { execFile, spawn } from 'node:child_process'
import { closeSync, existsSync, fchmodSync, openSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { alive, ensureDatabase, freePort, ownerConnection, stopDatabase } from './mariadb'
import {
  applicationEnvironment,
  buildDigest,
  makePlaces,
  placesAt,
  readSettings,
  root,
  writeSettings,
  type Places,
} from './places'
import { CommandFailure, note, print } from './say'

/** Logs are for whoever runs the site, not for everybody on the machine. */
function openLog(file: string): number {
  const log = openSync(file, 'a', 0o600)
  fchmodSync(log, 0o600)
  return log
}

const sleep = (ms: number) => new Promise((done) => setTimeout(done, ms))
const supervisorFile = (places: Places) => join(places.run, 'supervisor.pid')
const serverFile = (places: Places) => join(places.run, 'server.pid')
const FIRST_PORT = 4180

/** The pid written in a file, while that process lives and is one of ours. */
function livePid(file: string, mark: string): number | null {
  try {
    const pid = Number(readFileSync(file, 'utf8'))
    return pid && alive(pid) && readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(mark) ? pid : null
  } catch {
    return null
  }
}

export const built = join(root, '.output')

/** Builds the application when its sources are not those of the last build. */
export async function ensureBuilt(): Promise<void> {
  const stamp = join(built, 'vet-line-build')
  const digest = buildDigest()
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === digest) return
  note('Building the application (about two minutes) …')
  try {
    await promisify(execFile)(process.execPath, [join(root, 'node_modules/nuxt/bin/nuxt.mjs'), 'build'], {
      cwd: root,
      env: { ...process.env, NUXT_TELEMETRY_DISABLED: '1', NODE_ENV: 'production' },
      maxBuffer: 64 * 1024 * 1024,
    })
  } catch (error) {
    const { message, stdout = '', stderr = '' } = error as Error & { stdout?: string; stderr?: string }
    throw new CommandFailure(`The build failed:\n${stdout.slice(-3000)}\n${stderr.slice(-3000) || message}`)
  }
  writeFileSync(stamp, digest)
}

const health = async (port: number): Promise<boolean> => {
  try {
    return (await fetch(`http://127.0.0.1:${port}/api/health`, { signal: AbortSignal.timeout(2000) })).ok
  } catch {
    return false
  }
}

/** Starts what is not running and waits until the application answers; gives its address. */
export async function start(options: { port?: number } = {}): Promise<string> {
  const places = placesAt()
  makePlaces(places)
  await ensureBuilt()
  await ensureDatabase(places)
  const settings = readSettings(places)
  if (livePid(supervisorFile(places), 'cli/supervise.ts') && (await health(settings.httpPort)))
    return address(settings.httpPort)
  await stopServer(places)
  settings.httpPort = await choosePort(options.port ?? (settings.httpPort || FIRST_PORT))
  writeSettings(places, settings)
  const log = openLog(join(places.logs, 'supervisor.log'))
  const child = spawn(process.execPath, [...process.execArgv, join(root, 'cli/supervise.ts')], {
    detached: true,
    stdio: ['ignore', log, log],
    env: { ...process.env, VET_LINE_DATA: places.data },
  })
  closeSync(log)
  child.unref()
  writeFileSync(supervisorFile(places), String(child.pid))
  for (let i = 0; i < 300; i++) {
    if (await health(settings.httpPort)) return address(settings.httpPort)
    if (!alive(child.pid!)) break
    await sleep(100)
  }
  throw new CommandFailure(`The application does not answer; its log is ${join(places.logs, 'server.log')}.`)
}

const address = (port: number) => `http://127.0.0.1:${port}`

async function choosePort(wanted: number): Promise<number> {
  for (let port = wanted; port < wanted + 20; port++) {
    try {
      return await freePort(port)
    } catch {
      if (port === wanted) note(`Port ${wanted} is taken: looking for the next free one.`)
    }
  }
  return freePort()
}

async function end(pid: number | null) {
  if (pid === null) return
  process.kill(pid, 'SIGTERM')
  for (let i = 0; i < 100 && alive(pid); i++) await sleep(50)
  if (alive(pid)) process.kill(pid, 'SIGKILL')
}

/** Ends a supervisor and a server of this folder, also ones left over from a killed run. */
async function stopServer(places: Places) {
  await end(livePid(supervisorFile(places), 'cli/supervise.ts'))
  await end(livePid(serverFile(places), join(built, 'server/index.mjs')))
  for (const file of [supervisorFile(places), serverFile(places)]) rmSync(file, { force: true })
}

export async function stop(): Promise<void> {
  const places = placesAt()
  const ran = livePid(supervisorFile(places), 'cli/supervise.ts') !== null
  await stopServer(places)
  const database = await stopDatabase(places)
  print(ran || database ? 'Stopped.' : 'Nothing was running.')
}

/** Keeps the database and the application running until told to stop. */
export async function supervise(): Promise<void> {
  const places = placesAt()
  let stopping = false
  let child: ReturnType<typeof spawn> | null = null
  const quit = () => {
    stopping = true
    child?.kill('SIGTERM')
  }
  process.on('SIGTERM', quit)
  process.on('SIGINT', quit)
  let failures = 0
  while (!stopping) {
    const settings = await ensureDatabase(places)
    const log = openLog(join(places.logs, 'server.log'))
    const born = Date.now()
    child = spawn(process.execPath, [join(built, 'server/index.mjs')], {
      stdio: ['ignore', log, log],
      env: {
        ...process.env,
        ...applicationEnvironment(settings),
        NITRO_HOST: '127.0.0.1',
        NITRO_PORT: String(settings.httpPort),
        NODE_ENV: 'production',
        VET_LINE_FONTS: join(root, 'node_modules/@fontsource/atkinson-hyperlegible-next/files'),
        VET_LINE_PROCEDURES: join(root, 'procedures'),
      },
    })
    closeSync(log)
    writeFileSync(serverFile(places), String(child.pid))
    const exited = new Promise<void>((done) => child!.once('exit', () => done()))
    let gone = false
    void exited.then(() => (gone = true))
    while (!gone && !stopping) {
      await Promise.race([exited, sleep(500)])
      // The database may be killed at any time; it comes back on its own port and nobody has to help.
      if (!gone && !stopping) await ensureDatabase(places).catch((error: Error) => note(error.message))
    }
    await exited
    failures = Date.now() - born < 5000 ? failures + 1 : 0
    if (!stopping) await sleep(Math.min(5000, 200 * 2 ** failures))
  }
}

/** Until somebody keeps the installation, starting gives the link by which they come in. */
export async function startForPeople(port?: number): Promise<void> {
  const where = await start({ port })
  print(`Vet Line runs at ${where}`)
  const token = await foundingLink()
  if (!token) return
  print('\nNobody keeps this installation yet. Open this address once, within a day:\n')
  print(`  ${where}/start#${token}\n`)
  print('It makes the first administrator. Starting again gives a new one.')
}

async function foundingLink(): Promise<string | null> {
  const db = ownerConnection(readSettings(placesAt()))
  try {
    const { installationName } = await import('../server/db/links')
    if ((await installationName(db)) !== null) return null
    const { makeLink } = await import('../server/services/links')
    return await makeLink(db, 'found', null, null)
  } finally {
    await db.destroy()
  }
}

/** A new link for somebody who is locked out, by whoever has the data folder. */
export async function resetPerson(name: string | undefined): Promise<void> {
  if (!name) throw new CommandFailure('Say who: ./vet-line person reset SIGN-IN')
  const where = await start()
  const db = ownerConnection(readSettings(placesAt()))
  try {
    const { signInKey } = await import('../core/record/names')
    const { findPerson } = await import('../server/db/projects')
    const person = await findPerson(db, { sign_in: signInKey(name) })
    if (!person) throw new CommandFailure(`There is no person with the sign-in name "${name}".`)
    if (!person.active)
      throw new CommandFailure(`${person.name} is let in no more: an administrator changes that.`)
    const { makeLink } = await import('../server/services/links')
    print(`${person.name} chooses a new password and PIN here, once, within a day:\n`)
    print(`  ${where}/start#${await makeLink(db, 'reset', person.id, null)}`)
  } finally {
    await db.destroy()
  }
}

export async function demo(port?: number): Promise<void> {
  const places = placesAt()
  makePlaces(places)
  await ensureBuilt()
  const settings = await ensureDatabase(places)
  // People and memberships are the owner's to write.
  const db = ownerConnection(settings)
  try {
    const { seedDemo } = await import('../demo/seed')
    if (await seedDemo(db)) note('The demo project was laid out.')
  } finally {
    await db.destroy()
  }
  const where = await start({ port })
  const { demoPeople, demoPassword, demoPin } = await import('../demo/people')
  print(`\nVet Line runs at ${where}\n`)
  print(`Sign in with password "${demoPassword}"; sign-offs ask for PIN ${demoPin}:`)
  for (const p of demoPeople)
    print(`  ${p.signIn.padEnd(8)} ${p.name}, ${p.role.replace('-', ' ')}${p.crew ? `, ${p.crew}` : ''}`)
  print('\nStop it with ./vet-line stop')
}
