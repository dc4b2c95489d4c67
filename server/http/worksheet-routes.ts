import * as yup from 'yup'
import { newEntrySchema } from '#core/checks/sent'
import { timing } from '#core/record/entry'
import { Problem } from '#core/problem'
import { uuid } from '#core/record/uuid'
import { recordAt } from '../services/record-at'
import { releaseHere } from '../services/release-here'
import { confirmSecret } from '../services/sessions'
import type { WorkedSubject } from '../services/subjects'
import type { RouteKey } from './access'
import { readingBody, withdrawal, witnessBody } from './inputs'
import { personOn, projectRoute } from './route'
import { sentEntries } from './sent'

/** Sign-offs ask for the PIN again and have a route of their own. */
const SIGNED_OFF = ['release', 'refusal', 'waiver', 'decision', 'withdrawal', 'review', 'query', 'watch']
const entriesBody = yup.object({ entries: yup.array().of(newEntrySchema).min(1).max(200).required() })

/** Entries of one subject, as a device sends them. */
export const entriesRoute = (key: RouteKey, type: WorkedSubject) =>
  projectRoute(key, { body: entriesBody }, async ({ event, db, project, actor, params, body }) => {
    if (body.entries.some((e) => SIGNED_OFF.includes(e.kind)))
      throw new Problem('bad-kind', 'A sign-off is not recorded this way.', 'kind')
    const sent = sentEntries(event, actor.person, body.entries)
    const entries = await recordAt(db, project, actor, type, params[type]!, sent)
    return { seq: entries.length, head: entries.at(-1)?.hash ?? null }
  })

const signOffBody = yup.object({
  id: uuid().required(),
  step: yup.string().max(60).required(),
  kind: yup
    .string()
    .oneOf(['release', 'refusal', 'waiver', 'decision'] as const)
    .required(),
  verdict: yup.string().oneOf(['accept', 'reject', 'again'] as const),
  stands: uuid(),
  reason: yup.string().trim().max(2000).default(''),
  secret: yup.string().min(1).max(200).required(),
  /** a waiver for a lot past its date names it */
  lot: yup.string().max(80),
  /** steps that a waiver of a hold point leaves open */
  waives: yup.array().of(yup.string().max(60).required()).max(200),
  /** what later steps must show besides, of a release */
  conditions: yup
    .array()
    .of(
      yup.object({
        step: yup.string().max(60).required(),
        text: yup.string().trim().max(400).required(),
      }),
    )
    .max(20),
})

/** A sign-off at a step of one subject, given with the PIN. */
export const signOffRoute = (key: RouteKey, type: WorkedSubject) =>
  projectRoute(key, { body: signOffBody }, async ({ db, project, actor, params, body }) => {
    await confirmSecret(db, actor.person, body.secret)
    const { kind, reason, verdict, stands, lot, waives, conditions } = body
    const payloads = {
      release: { ...(reason ? { note: reason } : {}), ...(conditions?.length ? { conditions } : {}) },
      refusal: { reason },
      decision: { verdict, reason, ...(stands ? { stands } : {}) },
      waiver: { reason, ...(lot ? { lot } : {}), ...(waives?.length ? { waives } : {}) },
    }
    const entries = await recordAt(db, project, actor, type, params[type]!, [
      { id: body.id, kind, step: body.step, payload: payloads[kind], recordedAt: new Date() },
    ])
    return { seq: entries.length }
  })

const hereBody = yup.object({
  id: uuid().required(),
  step: yup.string().max(60).required(),
  by: uuid().required(),
  sealed: yup
    .object({
      key: yup.string().max(200).required(),
      iv: yup.string().max(40).required(),
      data: yup.string().max(600).required(),
    })
    .required(),
  reason: yup.string().trim().max(400).default(''),
  report: uuid().required(),
  ...timing,
})

/** A hold released on the crew's device by somebody else, while there was no signal. */
export const releaseHereRoute = (key: RouteKey, type: WorkedSubject) =>
  projectRoute(key, { body: hereBody }, async ({ event, db, project, actor, params, body }) => {
    const { id, step, by, sealed, reason, report } = body
    const [timed] = sentEntries(event, actor.person, [{ ...body, kind: 'release', payload: {} }])
    const { device, number, stampAt, moved, recordedAt } = timed!
    await releaseHere(
      db,
      project,
      actor,
      type,
      params[type]!,
      { id, step, by, sealed, reason, report, timed: { device, number, stampAt, moved, recordedAt } },
      async () => (await personOn(db, project.key, by)).actor,
    )
    return { ok: true }
  })

/** A word at a witness point: the invitation, its answer, who came. */
export const witnessRoute = (key: RouteKey, type: WorkedSubject) =>
  projectRoute(key, { body: witnessBody }, async ({ db, project, actor, params, body }) => {
    const entries = await recordAt(db, project, actor, type, params[type]!, [
      { ...body, payload: body.payload as Record<string, unknown>, recordedAt: new Date() },
    ])
    return { seq: entries.length }
  })

/** Who reads the record: it is in order, a question about it, or that somebody stood by. */
export const readingRoute = (key: RouteKey, type: WorkedSubject) =>
  projectRoute(key, { body: readingBody }, async ({ db, project, actor, params, body }) => {
    const entries = await recordAt(db, project, actor, type, params[type]!, [
      { ...body, payload: body.payload as Record<string, unknown>, recordedAt: new Date() },
    ])
    return { seq: entries.length }
  })

/** Says of a subject that bears entries that it is no part of the job any more, given with the PIN. */
export const withdrawRoute = (key: RouteKey, type: WorkedSubject) =>
  projectRoute(key, { body: withdrawal }, async ({ db, project, actor, params, body }) => {
    await confirmSecret(db, actor.person, body.secret)
    const { id, reason } = body
    const entries = await recordAt(db, project, actor, type, params[type]!, [
      { id, kind: 'withdrawal', step: null, payload: { reason }, recordedAt: new Date() },
    ])
    return { seq: entries.length }
  })
