import type { PointRule } from '../core/plan/points'
import { entriesOf } from '../server/db/entries'
import { saveSettings } from '../server/db/projects'
import type { Summary } from '../core/judgement/projection'
import { findSubject, refreshSubject } from '../server/services/subjects'
import { noteChange } from '../server/services/changes'
import { DAY, HOUR, MINUTE, write, type Ground } from './ground'

const dayOf = (at: number) => new Date(at).toISOString().slice(0, 10)

/** What was changed of the inspection plan: changes reviewed, and one that waits for its review. */
export async function layRules(g: Ground): Promise<void> {
  const rule = (more: Partial<PointRule>): PointRule => ({
    ...{ id: g.random.id(g.now - 3 * DAY), procedure: 'rc-sealant', step: '*', party: 'inspector' },
    ...{ point: 'H', rate: null, line: null, crew: null, from: dayOf(g.now + DAY), until: null },
    ...{ reason: '', by: g.people.petra!.person, at: g.now - 3 * DAY, review: null },
    ...more,
  })
  const review = { by: g.people.juno!.person, at: g.now - 2 * DAY, accepted: true, reason: '' }
  const points = [
    rule({
      ...{ procedure: 'frp-threaded', step: 'hand-tight', party: 'authority', point: 'R' },
      ...{ reason: 'The authority reads the first joints of the brine line.', review },
    }),
    rule({
      ...{ id: g.random.id(g.now - 5 * HOUR), procedure: 'cpvc-solvent-weld', crew: g.crews[3]! },
      ...{ by: g.people.juno!.person, at: g.now - 5 * HOUR },
      reason: 'Two joints in five of this crew were rejected.',
    }),
    rule({
      ...{ id: g.random.id(g.now - 11 * DAY), procedure: 'di-restrained-gripper', crew: g.crews[3]! },
      ...{ from: dayOf(g.now - 10 * DAY), at: g.now - 11 * DAY, good: 10 },
      ...{ review: { ...review, at: g.now - 10.5 * DAY } },
      reason: 'Crew Quay is new at this joint: every point is held until ten in a row were good.',
    }),
    ...[
      { step: 'ovality', rate: 'first-of-day' as const, crew: g.crews[1]! },
      { step: 'clamped', rate: 'after-rejection' as const },
    ].map((more) =>
      rule({
        ...{ id: g.random.id(g.now - 21 * DAY), procedure: 'pe-electrofusion-socket', point: 'S' },
        ...{ from: dayOf(g.now - 20 * DAY), at: g.now - 21 * DAY },
        ...{ review: { ...review, at: g.now - 20.5 * DAY } },
        reason: 'Ovality came back: the first joint of a day, and the one after a rejection, are watched.',
        ...more,
      }),
    ),
  ]
  g.project.settings = { ...g.project.settings, points }
  await saveSettings(g.db, g.project.id, g.project.settings)
  for (const p of points)
    await noteChange(g.db, g.people.petra!, 'set-rule', { what: 'point-proposed', ...p, review: null })
}

/** A joint whose witness will come, and one whose witness was asked and stayed away. */
async function layInvitations(g: Ground): Promise<void> {
  /** a joint at work where nobody has come to the step yet */
  const opened = async (system: string, step: string) => {
    const ids = (await g
      .db('joints')
      .where({ project: g.project.id, system })
      .whereIn('state', ['in-work', 'not-started', 'held'])
      .whereNotNull('opened_at')
      .orderBy('number')
      .pluck('id')) as string[]
    for (const id of ids) if (!(await entriesOf(g.db, id)).some((e) => e.step === step)) return id
    return null
  }
  const say = async (system: string, step: string, absent: boolean) => {
    const found = await opened(system, step)
    if (!found) return
    const at = absent ? g.now - 4 * HOUR : g.now - 50 * MINUTE
    const due = at + (absent ? 2.2 : 2.5) * HOUR
    const invitation = { for: new Date(Math.ceil(due / (15 * MINUTE)) * 15 * MINUTE).toISOString() }
    await write(g, 'joint', found, 'milo', [{ kind: 'invitation', step, payload: invitation, at }])
    if (absent)
      await write(g, 'joint', found, 'milo', [
        { kind: 'attendance', step, payload: { present: false }, at: due + 20 * MINUTE },
      ])
    else
      await write(g, 'joint', found, 'hale', [
        { kind: 'reply', step, payload: { accepts: true }, at: at + 12 * MINUTE },
      ])
    const subject = (await findSubject(g.db, g.project.id, 'joint', found))!
    await refreshSubject(g.db, g.project, subject, await entriesOf(g.db, found))
  }
  await say('frp-threaded', 'hand-tight', false)
  await say('hose-band-clamp', 'proof', true)
}

/** How many of what was drawn were watched, crew by crew: one crew works where inspectors seldom come. */
const WATCHED = [0.85, 0.4, 0.7, 0.6]

/** What inspectors stood by at, of what was drawn in the last weeks; a record that was queried, and one answered. */
async function layReading(g: Ground): Promise<void> {
  const joints = (await g
    .db('joints')
    .where({ project: g.project.id })
    .whereRaw("JSON_EXISTS(summary, '$.watches')")
    .orderBy('number')
    .select('id', 'crew', 'summary')) as { id: string; crew: string; summary: string }[]
  const again = async (id: string) => {
    const subject = (await findSubject(g.db, g.project.id, 'joint', id))!
    await refreshSubject(g.db, g.project, subject, await entriesOf(g.db, id))
  }
  for (const { id, crew, summary } of joints) {
    const { watches } = JSON.parse(summary) as Pick<Summary, 'watches'>
    const drawn = watches!.filter((w) => w.drawn && w.done)
    if (drawn.length === 0 || g.random.next() > WATCHED[g.crews.indexOf(crew)]!) continue
    const last = Date.parse((await entriesOf(g.db, id)).at(-1)!.receivedAt)
    await write(
      g,
      'joint',
      id,
      g.random.next() < 0.5 ? 'ines' : 'oskar',
      drawn.map(({ step }) => ({ kind: 'watch', step, payload: { good: true }, at: last + MINUTE })),
    )
    await again(id)
  }
  const ask = async (number: string, step: string, text: string, answer: string | null) => {
    const { id, crew } = (await g
      .db('joints')
      .where({ project: g.project.id, number })
      .first('id', 'crew')) as {
      id: string
      crew: string
    }
    const at = Math.max(Date.parse((await entriesOf(g.db, id)).at(-1)!.receivedAt), g.now - 6 * HOUR)
    const asked = await write(g, 'joint', id, 'hale', [
      { kind: 'query', step, payload: { text, to: 'crew' }, at: at + MINUTE },
    ])
    const to = asked.at(-1)!.id
    if (answer !== null)
      await write(g, 'joint', id, crew === g.crews[0] ? 'tam' : 'rhona', [
        { kind: 'response', step, payload: { to, text: answer }, at: at + 40 * MINUTE },
      ])
    await again(id)
  }
  await ask('RM-108', 'peeled', 'Was the second end peeled after the rain?', null)
  await ask('RM-101', 'peeled', 'Which peeler was used?', 'The rotary one, number 2.')
}

/** Points of the demo, and who was invited to them. */
export async function layPoints(g: Ground): Promise<void> {
  await layInvitations(g)
  await layReading(g)
}
