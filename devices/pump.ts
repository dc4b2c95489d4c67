import { setTimeout as sleep } from 'node:timers/promises'
import { parseArgs } from 'node:util'
import { uuidv7 } from 'uuidv7'
import { roomAround } from '../core/embedment/grout-log'
import { GroutPump, pumpStories, type PumpReading, type PumpStory } from './grout-pump'
import { signIn } from './site'

const usage = `./vet-line pump REACH           a made-up grout pump feeds the log of a casing
  --story ${Object.keys(pumpStories).join('|')}   how it works; --speed N: so many of its seconds in one
  --every S               seconds between its readings, by its own clock; --rows N: readings in one entry
  --address URL --project KEY --sign-in NAME --password WORD`

/** Where the log goes: one step of one reach. */
export interface GroutPlace {
  address: string
  project: string
  reach: string
  step: string
}
type Facts = Record<string, number | string | boolean>
interface SheetReply {
  subject: { facts: Facts }
  procedure: { stages: { steps: { key: string; check: { kind: string } }[] }[] } | null
}

/** A reach by its name, its step of grout and the room around its pipe. @throws when there is none */
export async function casingByName(address: string, project: string, name: string, cookie: string) {
  const get = async <T>(path: string): Promise<T> => {
    const reply = await fetch(`${address}/api/projects/${project}/${path}`, { headers: { cookie } })
    if (!reply.ok) throw new Error(`${path} could not be read: ${reply.status}`)
    return reply.json() as Promise<T>
  }
  const found = (await get<{ id: string; name: string }[]>('reaches')).find((r) => r.name === name)
  if (!found) throw new Error(`There is no reach ${name}.`)
  const { subject, procedure } = await get<SheetReply>(`reaches/${found.id}`)
  const step = procedure?.stages.flatMap((s) => s.steps).find((s) => s.check.kind === 'grout')
  if (!step) throw new Error(`${name} is not grouted.`)
  const room = roomAround(subject.facts)
  if (room === null) throw new Error(`The room around the pipe of ${name} is not known.`)
  const bore = Number(subject.facts['casing.bore'])
  return { place: { address, project, reach: found.id, step: step.key }, room, bore }
}

/** Writes readings of the pump into the record. @returns what the site refused, in its words; null when taken */
export async function writeLog(
  { address, project, reach, step }: GroutPlace,
  rows: readonly PumpReading[],
  cookie: string,
): Promise<string | null> {
  const entry = { id: uuidv7(), kind: 'grout', step, payload: { rows }, recordedAt: new Date().toISOString() }
  const reply = await fetch(`${address}/api/projects/${project}/reaches/${reach}/entries`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', cookie },
    body: JSON.stringify({ entries: [entry] }),
  })
  if (reply.ok) return null
  const { data } = (await reply.json()) as { data?: { message?: string } }
  return data?.message ?? String(reply.status)
}

/** Feeds the log of a casing of the demo until the annulus is full, the site refuses, or a signal comes. */
export async function runPump(
  args: string[],
  defaults: { project: string; name: string; password: string },
): Promise<void> {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: {
      address: { type: 'string', default: 'http://127.0.0.1:4300' },
      project: { type: 'string', default: defaults.project },
      'sign-in': { type: 'string', default: defaults.name },
      password: { type: 'string', default: defaults.password },
      story: { type: 'string', default: 'careful' },
      speed: { type: 'string', default: '60' },
      every: { type: 'string', default: '60' },
      rows: { type: 'string', default: '3' },
    },
  })
  const [name] = positionals
  if (!name || !Object.hasOwn(pumpStories, values.story)) throw new Error(usage)
  const cookie = await signIn(values.address, values['sign-in'], values.password)
  const { place, room, bore } = await casingByName(values.address, values.project, name, cookie)
  // A full column of grout at 1.75 times water stands as high as the casing.
  const pump = new GroutPump({ room, base: 6e3, head: 1750 * 9.81 * bore }, values.story as PumpStory)
  let rows: PumpReading[] = []
  while (!pump.full) {
    rows.push(pump.run(Number(values.every)))
    if (rows.length >= Number(values.rows) || pump.full) {
      const refused = await writeLog(place, rows, cookie)
      if (refused) throw new Error(refused)
      rows = []
    }
    await sleep((Number(values.every) / Number(values.speed)) * 1000)
  }
}
