import {
  defineEventHandler,
  getHeader,
  getQuery,
  getRequestHost,
  getRouterParams,
  readRawBody,
  type EventHandler,
  type H3Event,
} from 'h3'
import type { Knex } from 'knex'
import type { AnyObjectSchema, InferType } from 'yup'
import type { Role } from '#core/access'
import { inheritedKey } from '#core/inherited-key'
import { illFormed } from '#core/record/canonical'
import { crewScope, rolesFor } from '#core/access'
import { Problem } from '#core/problem'
import { siteUnits } from '#core/quantity/site-units'
import { database } from '../db/connection'
import { findPerson, findProject, membershipsOf, type Membership, type Project } from '../db/projects'
import type { Actor } from '../services/record'
import { access, rolesOf, type RouteKey, type Who } from './access'
import { closed } from './closed'
import { packed } from './packed'
import { refusal } from './refuse'
import { currentPerson, stampReply } from './session'

export interface RouteContext<B, Q> {
  event: H3Event
  db: Knex
  params: Record<string, string>
  body: B
  query: Q
}
export interface ProjectContext<B, Q> extends RouteContext<B, Q> {
  project: Project
  actor: Actor
}

interface Input<B extends AnyObjectSchema, Q extends AnyObjectSchema> {
  body?: B
  query?: Q
  /** bytes; bodies over it are refused */
  limit?: number
}

/** Names in an address; that of a calendar ends as its programs expect. */
const NAME = /^[a-z0-9][a-z0-9-]{0,59}(\.ics)?$/i
const LIMIT = 512 * 1024

/** The host of an origin; null for a sandboxed frame's "null" and for what is no origin at all. */
function hostOf(origin: string): string | null {
  try {
    return new URL(origin).host
  } catch {
    return null
  }
}

/** Same-site cookies keep foreign pages out; the origin is checked as well. */
function checkOrigin(event: H3Event) {
  if (event.method === 'GET' || event.method === 'HEAD') return
  const origin = getHeader(event, 'origin')
  const site = getHeader(event, 'sec-fetch-site')
  const foreign =
    (origin !== undefined && hostOf(origin) !== getRequestHost(event)) ||
    (site !== undefined && site !== 'same-origin' && site !== 'none')
  if (foreign) throw new Problem('cross-site', 'This request came from another site.')
}

export async function readText(event: H3Event, limit: number): Promise<string> {
  const announced = Number(
    getHeader(event, 'content-length') ?? (getHeader(event, 'transfer-encoding') ? Infinity : 0),
  )
  if (announced > limit)
    throw new Problem('too-large', `At most ${Math.round(limit / 1024)} kB can be sent here.`)
  return (await readRawBody(event, 'utf8')) ?? ''
}

/**
 * What no schema says: keys that every object inherits, and text that would be stored otherwise than it
 * came.
 */
function refuseUnstorable(data: unknown) {
  const found = inheritedKey(data)
  if (found) throw new Problem('bad-input', found.sentence, found.path.join('.'))
  const broken = illFormed(data)
  if (broken)
    throw new Problem('bad-text', 'The text holds a broken character: type it again.', broken.join('.'))
}

async function readBody(
  event: H3Event,
  schema: AnyObjectSchema | undefined,
  limit: number,
): Promise<unknown> {
  if (event.method === 'GET') return undefined
  const text = await readText(event, limit)
  if (!schema) return undefined
  let raw: unknown
  try {
    raw = text === '' ? {} : JSON.parse(text)
  } catch {
    throw new Problem('bad-json', 'The request is not JSON.', 'body')
  }
  refuseUnstorable(raw)
  // Nothing is coerced; only what was left out gets its default.
  await schema.validate(raw, { strict: true })
  return schema.cast(raw)
}

interface Known {
  project: Project
  memberships: Membership[]
  name: string
  at: number
}
/** Memberships are read again after this many ms; a change of role ends the session besides. */
const FRESH = 1000
const known = new Map<string, Known>()
/** Reads projects and memberships anew at once, after a change of settings. */
export const forgetKnown = () => known.clear()

async function member(db: Knex, projectKey: string, person: string): Promise<Known> {
  const key = `${projectKey} ${person}`
  const cached = known.get(key)
  if (cached && Date.now() - cached.at < FRESH) return cached
  const [project, who] = await Promise.all([findProject(db, projectKey), findPerson(db, { id: person })])
  const memberships = project && who?.active ? await membershipsOf(db, project.id, person) : []
  // Whoever is not on a project learns nothing of it, not even that it exists.
  if (!project || memberships.length === 0)
    throw new Problem('not-found', 'There is no such project.', 'project')
  const fresh = { project, memberships, name: who!.name, at: Date.now() }
  if (known.size > 5000) known.clear()
  known.set(key, fresh)
  return fresh
}

/** Somebody as a member of a project, for a route that knows its person otherwise than by a session. */
export async function personOn(
  db: Knex,
  projectKey: string,
  person: string,
): Promise<{ project: Project; actor: Actor }> {
  const found = await member(db, projectKey, person)
  return { project: found.project, actor: actorOf(found, person, rolesFor('see-site')) }
}

function actorOf({ project, memberships, name }: Known, person: string, who: readonly Role[]): Actor {
  const roles = memberships.map((m) => m.role)
  if (!roles.some((r) => who.includes(r)))
    throw new Problem('forbidden', `Only ${who.join(' or ')} may do this.`)
  return { person, name, project: project.id, roles, crew: crewScope(memberships) }
}

async function prepare(
  event: H3Event,
  input: Input<AnyObjectSchema, AnyObjectSchema>,
): Promise<RouteContext<never, never>> {
  const params = getRouterParams(event)
  for (const [key, value] of Object.entries(params))
    if (!NAME.test(value)) throw new Problem('not-found', 'There is nothing at this address.', key)
  refuseUnstorable(getQuery(event))
  const query = input.query ? await input.query.validate(getQuery(event), { strict: false }) : undefined
  const body = await readBody(event, input.body, input.limit ?? LIMIT)
  return { event, db: database(), params, query: query as never, body: body as never }
}

const closeInput = (input: Input<AnyObjectSchema, AnyObjectSchema>) => ({
  ...input,
  body: input.body && closed(input.body),
  query: input.query && closed(input.query),
})

const requestOf = (event: H3Event) => String(event.context.request ?? '')

/** A route outside any project. */
export function openRoute<B extends AnyObjectSchema, Q extends AnyObjectSchema, T>(
  key: RouteKey,
  input: Input<B, Q>,
  handler: (context: RouteContext<InferType<B>, InferType<Q>> & { person: string | null }) => Promise<T>,
): EventHandler {
  const checked = closeInput(input)
  return defineEventHandler(async (event) => {
    try {
      checkOrigin(event)
      const person = await currentPerson(event, database())
      if ((access[key] as Who) !== 'anyone' && !person) throw new Problem('signed-out', 'Sign in first.')
      return await handler({ ...(await prepare(event, checked)), person })
    } catch (error) {
      throw refusal(error, requestOf(event))
    }
  })
}

const UNITS = 'x-vet-line-units'

/**
 * What is only read is worded in the units that the person reads on this device. What is written is worded
 * in the project's, and a document that is opened by its address is too.
 */
function wordedFor(event: H3Event, project: Project): Project {
  const own = event.method === 'GET' ? siteUnits.find((u) => u === getHeader(event, UNITS)) : undefined
  return own === undefined ? project : { ...project, reader: own }
}

/** A route of one project: signed in, on the project, in a role that may. */
export function projectRoute<B extends AnyObjectSchema, Q extends AnyObjectSchema, T>(
  key: RouteKey,
  input: Input<B, Q>,
  handler: (context: ProjectContext<InferType<B>, InferType<Q>>) => Promise<T>,
): EventHandler {
  const checked = closeInput(input)
  return defineEventHandler(async (event) => {
    try {
      checkOrigin(event)
      const person = await currentPerson(event, database())
      if (!person) throw new Problem('signed-out', 'Sign in first.')
      const found = await member(database(), getRouterParams(event).project ?? '', person)
      const actor = actorOf(found, person, rolesOf(key))
      stampReply(event, person)
      const project = wordedFor(event, found.project)
      const data = await handler({ ...(await prepare(event, checked)), project, actor })
      return await packed(event, data)
    } catch (error) {
      throw refusal(error, requestOf(event))
    }
  })
}
