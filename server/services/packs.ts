import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { standing } from '#core/judgement/standing'
import { checkPayload } from '#core/checks/sent'
import { confirmableRows, WITNESS } from '#core/pressure/ready'
import { Problem } from '#core/problem'
import { checkAttendance, checkWitness } from '#core/judgement/duties'
import { inTransaction } from '../db/connection'
import { entriesOf, forCore } from '../db/entries'
import type { Project } from '../db/projects'
import { savePack, type Pack, type PackProjection } from '../db/packs'
import { refreshAfterTest } from './after-test'
import { packOf, projectPack, readyOf, type Signing } from './pack-sheet'
import { photoIsThere } from './photos'
import { cleanPicture, pngOf } from './pictures'
import { actingRole, appendAfter, appendEntries, type Actor, type NewEntry } from './record'

/** A person confirms a row that the tool cannot see, with a picture where it shows something. */
export async function confirmRow(
  db: Knex,
  actor: Actor,
  id: string,
  { row, photo }: { row: string; photo: string | null },
): Promise<void> {
  const role = actingRole(actor, 'run-test')
  const { number, state } = await packOf(db, actor, id)
  if (state === 'withdrawn') refuse(`Test pack ${number} is withdrawn.`)
  if (!confirmableRows.includes(row))
    throw new Problem('bad-row', 'This row follows from the record; nobody confirms it by hand.', 'row')
  await photoIsThere(db, actor.project, photo, 'photo')
  const payload = { answer: 'yes', ...(photo ? { photo } : {}) }
  await inTransaction(db, (trx) =>
    appendEntries(trx, actor, role, 'pack', id, [
      { id: uuidv7(), kind: 'confirmation', step: row, payload, recordedAt: new Date() },
    ]),
  )
}

/** A word on who sees the test: the invitation of whoever runs it, and the witness's answer. */
export async function sayOfWitness(
  db: Knex,
  actor: Actor,
  id: string,
  said: { id: string; kind: 'invitation' | 'reply' | 'attendance'; payload: Record<string, unknown> },
): Promise<void> {
  const role = actingRole(actor, said.kind === 'invitation' ? 'run-test' : 'see-points')
  const pack = await packOf(db, actor, id)
  if (pack.state === 'withdrawn' || pack.state === 'signed')
    refuse(`Test pack ${pack.number} is ${pack.state}.`)
  const entry: NewEntry = {
    ...{ id: said.id, kind: said.kind, step: WITNESS, recordedAt: new Date() },
    payload: checkPayload(said.kind, said.payload),
  }
  if (said.kind === 'reply') actingRole(actor, 'answer-invitation')
  await inTransaction(db, (trx) =>
    appendAfter(trx, actor, role, 'pack', id, [entry], (before) => {
      if (said.kind === 'invitation') return
      checkAttendance(standing(before.map(forCore)), sentBy(entry), actor.roles)
      if (said.payload.present === true) checkWitness(standing(before.map(forCore)), actor.person)
    }),
  )
}
const sentBy = ({ kind, step, payload, recordedAt }: NewEntry) => ({
  ...{ kind, step: step ?? null, payload },
  recordedAt: recordedAt.getTime(),
})

export const refuse = (sentence: string): never => {
  throw new Problem('wrong-state', sentence, 'pack')
}
const mayStart = (pack: Pack, { state }: Pick<PackProjection, 'state'> = pack) => {
  if (state === 'running' || state === 'signed' || state === 'withdrawn')
    refuse(`Test pack ${pack.number} is ${state}.`)
}

/** Starts the test. Rows still open need an engineer's name and reason. */
export async function startTest(
  db: Knex,
  project: Project,
  actor: Actor,
  id: string,
  { reason, since }: { reason: string | null; since: string | null },
): Promise<void> {
  const pack = await packOf(db, actor, id)
  mayStart(pack)
  if (pack.state === 'failed' && !since)
    throw new Problem(
      'repeat',
      'Both runs are kept: say what was found and done since the one that failed.',
      'since',
    )
  const open = (await readyOf(db, project, pack, await entriesOf(db, id))).filter((r) => r.state === 'open')
  if (open.length > 0 && !reason)
    throw new Problem(
      'not-ready',
      `Not ready: ${open.map((r) => r.title.toLowerCase()).join('; ')}. An engineer may start it with a reason.`,
      'reason',
    )
  const role = actingRole(actor, open.length > 0 ? 'start-unready-test' : 'run-test')
  const start: NewEntry = {
    id: uuidv7(),
    kind: 'start',
    payload: { open: open.map((r) => r.key), reason, ...(since ? { since } : {}) },
    recordedAt: new Date(),
  }
  await inTransaction(db, async (trx) => {
    const { entries } = await appendAfter(trx, actor, role, 'pack', id, [start], (before) =>
      mayStart(pack, projectPack(before)),
    )
    await trx('samples').where({ pack: id }).delete()
    await savePack(trx, id, projectPack(entries))
  })
}

/** Takes a planned or failed test out of the job; what was run stays in its record. */
export async function withdrawPack(
  db: Knex,
  project: Project,
  actor: Actor,
  pack: string,
  { id, reason }: { id: string; reason: string },
): Promise<void> {
  const role = actingRole(actor, 'withdraw')
  const found = await packOf(db, actor, pack)
  const { number } = found
  const entry: NewEntry = { id, kind: 'withdrawal', payload: { reason }, recordedAt: new Date() }
  await inTransaction(db, async (trx) => {
    const { entries } = await appendAfter(trx, actor, role, 'pack', pack, [entry], (before) => {
      const { state } = projectPack(before)
      if (state !== 'planned' && state !== 'failed')
        refuse(`Test pack ${number} is ${state}: a planned or failed one can be withdrawn.`)
    })
    await savePack(trx, pack, projectPack(entries))
    await refreshAfterTest(trx, project, found)
  })
}

/** Signs the evaluated test; the signature is bound to the digest of everything before it. */
export async function signPack(db: Knex, actor: Actor, id: string, image: string): Promise<void> {
  const role = actingRole(actor, 'sign-test')
  const pack = await packOf(db, actor, id)
  const picture = await cleanPicture(pngOf(image), 'image/png').catch(() => null)
  if (!picture)
    throw new Problem('bad-file', 'The drawn signature is not a whole picture: draw it again.', 'image')
  const signing: Signing = { name: actor.name, image: `data:image/png;base64,${picture.toString('base64')}` }
  const signature: NewEntry = {
    id: uuidv7(),
    kind: 'signature',
    payload: { ...signing },
    recordedAt: new Date(),
  }
  await inTransaction(db, async (trx) => {
    const { entries } = await appendAfter(trx, actor, role, 'pack', id, [signature], (before) => {
      const { state, verdict } = projectPack(before)
      if (state !== 'evaluated' && !(state === 'signed' && role === 'inspector'))
        refuse(
          state === 'failed'
            ? 'A failed test is not signed; raise its nonconformance.'
            : `Test pack ${pack.number} is ${state}; an evaluated test is signed.`,
        )
      if (verdict === 'too-close')
        refuse('This run is too close to call: hold longer, or run it again with a better gauge.')
      if (role === 'witness') checkWitness(standing(before.map(forCore)), actor.person)
      signature.payload.digest = before.at(-1)!.hash
    })
    await savePack(trx, id, projectPack(entries))
  })
}
