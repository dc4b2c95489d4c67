import type { Knex } from 'knex'
import { roles, type Role } from '#core/access'
import { nameKey, signInKey } from '#core/record/names'
import { Problem } from '#core/problem'
import { inTransaction } from '../db/connection'
import { openLinks } from '../db/links'
import {
  administratorsOf,
  deleteMemberships,
  insertCrew,
  insertMembership,
  insertPerson,
  isKeeper,
  membersOf,
  projectIdsOf,
  renameCrew,
  setActive,
  type Member,
} from '../db/people'
import { crewsOf, findPerson, type Project } from '../db/projects'
import { checkSignIn, makeLink } from './links'
import { noteChange } from './changes'
import type { Actor } from './record'
import { forgetSessions } from './sessions'

export interface RoleGiven {
  role: string
  crew: string | null
}

/** People of a project with their roles, and until when the link of whoever has not come in yet stands. */
export async function peopleAndCrews(db: Knex, project: Project) {
  const [members, crews] = await Promise.all([membersOf(db, project.id), crewsOf(db, project.id)])
  const links = await openLinks(
    db,
    members.map((m) => m.id),
    new Date(),
  )
  return {
    people: members.map((m) => ({ ...m, linkUntil: links.get(m.id)?.toISOString() ?? null })),
    crews,
  }
}

/** Roles as they may be given: each once, a crew lead with a crew of this project. */
async function checkRoles(db: Knex, project: Project, given: readonly RoleGiven[]): Promise<Member['roles']> {
  const crews = new Set((await crewsOf(db, project.id)).map((c) => c.id))
  const seen = new Set<string>()
  return given.map(({ role, crew }) => {
    if (!Object.hasOwn(roles, role))
      throw new Problem('unknown-choice', `There is no role "${role}".`, 'roles')
    if (seen.has(role)) throw new Problem('duplicate', 'A role is given once.', 'roles')
    seen.add(role)
    if (role !== 'crew-lead') return { role: role as Role, crew: null }
    if (crew === null || !crews.has(crew))
      throw new Problem('missing', 'A crew lead leads a crew of this project: choose it.', 'crew')
    return { role, crew }
  })
}

/**
 * Brings a person onto the project, new or known.
 *
 * @returns the token of the link by which they come in, shown once
 */
export async function joinPerson(
  trx: Knex,
  project: Project,
  actor: Actor,
  { id: fresh, name, signIn, roles }: { id: string; name: string; signIn: string; roles: Member['roles'] },
): Promise<{ token: string | null }> {
  checkSignIn(signIn)
  const known = await findPerson(trx, { sign_in: signIn })
  const id = known?.id ?? fresh
  if (known) {
    if ((await membersOf(trx, project.id)).some((m) => m.id === id))
      throw new Problem('duplicate', `"${signIn}" is on this project already.`, 'signIn')
    // Who works on other projects is known to who keeps the installation, and to nobody else.
    if (!(await isKeeper(trx, actor.person)))
      throw new Problem('duplicate', `The sign-in name "${signIn}" is taken: choose another.`, 'signIn')
  } else await insertPerson(trx, { id, signIn, name })
  for (const m of roles) await insertMembership(trx, { project: project.id, person: id, ...m })
  await noteChange(trx, actor, 'keep-people', { what: 'person', person: id, name, signIn, roles })
  return { token: known ? null : await makeLink(trx, 'join', id, actor.person) }
}

/** Adds a person to the project. */
export async function addPerson(
  db: Knex,
  project: Project,
  actor: Actor,
  typed: { id: string; name: string; signIn: string; roles: RoleGiven[] },
): Promise<{ token: string | null }> {
  const signIn = signInKey(typed.signIn)
  checkSignIn(signIn)
  const roles = await checkRoles(db, project, typed.roles)
  return inTransaction(db, (trx) => joinPerson(trx, project, actor, { ...typed, signIn, roles }))
}

const memberOf = async (db: Knex, project: Project, person: string): Promise<Member> => {
  const member = (await membersOf(db, project.id)).find((m) => m.id === person)
  if (!member) throw new Problem('not-found', 'There is no such person on this project.', 'person')
  return member
}

/** A project keeps somebody who can keep it. */
async function keepsAdministrator(trx: Knex, project: Project, leaving: string) {
  if ((await administratorsOf(trx, project.id)).every((a) => a === leaving))
    throw new Problem(
      'last-administrator',
      'A project keeps an administrator: make somebody else one first.',
      'roles',
    )
}

/** Gives a person other roles; none takes them off the project. Their sessions end. */
export async function changeRoles(
  db: Knex,
  project: Project,
  actor: Actor,
  person: string,
  typed: { roles: RoleGiven[]; reason: string },
): Promise<void> {
  const member = await memberOf(db, project, person)
  const given = await checkRoles(db, project, typed.roles)
  await inTransaction(db, async (trx) => {
    if (!given.some((g) => g.role === 'administrator')) await keepsAdministrator(trx, project, person)
    await deleteMemberships(trx, project.id, person)
    for (const m of given) await insertMembership(trx, { project: project.id, person, ...m })
    const change = { what: 'roles', person, before: member.roles, after: given, reason: typed.reason }
    await noteChange(trx, actor, 'keep-people', change)
  })
  forgetSessions()
}

/** Only who keeps the installation reaches a person who works on other projects too. */
async function mayReach(db: Knex, project: Project, actor: Actor, person: string): Promise<void> {
  const elsewhere = (await projectIdsOf(db, person)).some((id) => id !== project.id)
  if ((elsewhere || (await isKeeper(db, person))) && !(await isKeeper(db, actor.person)))
    throw new Problem(
      'forbidden',
      'This person works on other projects too: who keeps the installation does this.',
    )
}

/** Lets a person in no more, or in again. Sessions end at once; entries stay. */
export async function changeActive(
  db: Knex,
  project: Project,
  actor: Actor,
  person: string,
  typed: { active: boolean; reason: string },
): Promise<void> {
  await memberOf(db, project, person)
  await mayReach(db, project, actor, person)
  await inTransaction(db, async (trx) => {
    if (!typed.active) await keepsAdministrator(trx, project, person)
    await setActive(trx, person, typed.active)
    await noteChange(trx, actor, 'keep-people', { what: 'active', person, ...typed })
  })
  forgetSessions()
}

/** A new link for a person who has not come in yet, or is locked out. @returns its token, shown once */
export async function newLink(
  db: Knex,
  project: Project,
  actor: Actor,
  person: string,
): Promise<{ token: string }> {
  const member = await memberOf(db, project, person)
  await mayReach(db, project, actor, person)
  if (!member.active) throw new Problem('not-active', 'Let this person in again first.', 'person')
  return inTransaction(db, async (trx) => {
    const kind = member.joined ? 'reset' : 'join'
    await noteChange(trx, actor, 'keep-people', { what: 'link', person, kind })
    return { token: await makeLink(trx, kind, person, actor.person) }
  })
}

async function freeCrewName(trx: Knex, project: Project, name: string, but?: string) {
  const taken = (await crewsOf(trx, project.id)).some(
    (c) => c.id !== but && nameKey(c.name) === nameKey(name),
  )
  if (taken) throw new Problem('duplicate', `There is a crew "${name}" already.`, 'name')
}

export async function addCrew(
  db: Knex,
  project: Project,
  actor: Actor,
  typed: { id: string; name: string },
): Promise<void> {
  await inTransaction(db, async (trx) => {
    await freeCrewName(trx, project, typed.name)
    await insertCrew(trx, { ...typed, project: project.id })
    await noteChange(trx, actor, 'keep-people', { what: 'crew', crew: typed.id, name: typed.name })
  })
}

/** Names a crew anew; what it did stays its own. */
export async function changeCrew(
  db: Knex,
  project: Project,
  actor: Actor,
  crew: string,
  typed: { name: string; reason: string },
): Promise<void> {
  const before = (await crewsOf(db, project.id)).find((c) => c.id === crew)
  if (!before) throw new Problem('not-found', 'There is no such crew.', 'crew')
  await inTransaction(db, async (trx) => {
    await freeCrewName(trx, project, typed.name, crew)
    await renameCrew(trx, crew, typed.name)
    await noteChange(trx, actor, 'keep-people', { what: 'crew-name', crew, before: before.name, ...typed })
  })
}
