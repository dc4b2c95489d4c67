import { spawnSync } from 'node:child_process'
import { existsSync, openSync, closeSync, renameSync, rmSync } from 'node:fs'
import { resolve } from 'node:path'
import { userInfo } from 'node:os'
import { ensureDatabase, ownerConnection } from './mariadb'
import { placesAt } from './places'
import { CommandFailure, print } from './say'

/** Writes the whole database, triggers included, to one SQL file. */
export async function backup(file: string | undefined): Promise<number> {
  if (!file) throw new CommandFailure('Name the file: ./vet-line backup vet-line.sql')
  const places = placesAt()
  await ensureDatabase(places)
  const target = resolve(file)
  // A file left over would keep its own rights.
  rmSync(`${target}.new`, { force: true })
  const out = openSync(`${target}.new`, 'wx', 0o600)
  const run = spawnSync(
    'mariadb-dump',
    [
      '--no-defaults',
      `--socket=${places.socket}`,
      `--user=${userInfo().username}`,
      '--single-transaction',
      '--quick',
      '--hex-blob',
      '--skip-lock-tables',
      '--routines',
      '--triggers',
      'vet_line',
    ],
    { stdio: ['ignore', out, 'pipe'], encoding: 'utf8' },
  )
  closeSync(out)
  if (run.status !== 0) throw new CommandFailure(`The backup failed: ${run.stderr.trim()}`)
  renameSync(`${target}.new`, target)
  print(`Written to ${target}.`)
  return 0
}

/** Puts a backup back; refuses to write over a record that has entries. */
export async function restore(file: string | undefined): Promise<number> {
  if (!file || !existsSync(file))
    throw new CommandFailure('Name a backup file that exists: ./vet-line restore vet-line.sql')
  const places = placesAt()
  const settings = await ensureDatabase(places)
  const owner = ownerConnection(settings)
  const [{ n }] = (await owner('entries').count('* as n')) as [{ n: number }]
  await owner.destroy()
  if (Number(n) > 0)
    throw new CommandFailure(
      'This data folder has a record already: restore into an empty one (VET_LINE_DATA=/some/folder).',
    )
  const input = openSync(file, 'r')
  const run = spawnSync(
    'mariadb',
    ['--no-defaults', `--socket=${places.socket}`, `--user=${userInfo().username}`, 'vet_line'],
    { stdio: [input, 'inherit', 'pipe'], encoding: 'utf8' },
  )
  closeSync(input)
  if (run.status !== 0) throw new CommandFailure(`The restore failed: ${run.stderr.trim()}`)
  print('Restored. Check it with ./vet-line verify')
  return 0
}
