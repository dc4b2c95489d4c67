import { wordedIn } from '#core/quantity/site-units'
import { showStretch } from '#core/quantity/show'
import type { Knex } from 'knex'
import { standing } from '#core/judgement/standing'
import { WITNESS } from '#core/pressure/ready'
import { shelfEnd } from '#core/lots/shelf-life'
import { deliveriesOf } from '../db/deliveries'
import { entriesOfMany, forCore } from '../db/entries'
import { livelyJoints } from '../db/joints'
import { limitedLots } from '../db/lots'
import { crewsOf, type Project, wordsFor } from '../db/projects'
import { livelyReaches } from '../db/reaches'
import { ncrsOf, packsOf, type Pack } from '../db/site'
import { placesOf } from '../db/yard'
import { waitsForClient } from './concession'
import { comingPoints } from './coming'
import { witnessAt } from './pack-sheet'
import type { Actor } from './record'
import { dayOf, endOfDay } from '#core/quantity/day'

export interface TodayItem {
  kind:
    | 'hold'
    | 'invitation'
    | 'coming'
    | 'draft'
    | 'ncr'
    | 'clock'
    | 'action'
    | 'query'
    | 'concession'
    | 'test'
    | 'delivery'
    | 'lot'
    | 'round'
  /** where a tap goes */
  subject: string
  /** of what is judged: a joint when left out */
  of?: 'reach' | 'pack'
  step: string | null
  title: string
  place: string
  station: number | null
  crew: string | null
  detail: string
  /** ms: since when somebody stands still, or when it falls due */
  since: number | null
  due: number | null
  /** of what is foreseen: between when and when, and on how many joints it rests */
  span?: { from: number; to: number; of: number }
}

const HOUR = 3_600_000
/** How far ahead points are foreseen. */
const SOON = 2 * HOUR

/** What needs this person now: who stands still longest comes first, then what is due soonest. */
export async function today(
  db: Knex,
  project: Project,
  actor: Actor,
  now = Date.now(),
): Promise<TodayItem[]> {
  const [joints, reaches, ncrs, packs, crews, deliveries, coming] = await Promise.all([
    livelyJoints(db, project.id, actor.crew),
    livelyReaches(db, project.id, actor.crew),
    ncrsOf(db, project.id, { crew: actor.crew }),
    packsOf(db, project.id),
    crewsOf(db, project.id),
    deliveriesOf(db, project.id),
    comingPoints(db, project, actor, now),
  ])
  const crewName = (id: string | null) => crews.find((c) => c.id === id)?.name ?? null
  const items: TodayItem[] = []
  const judged = [
    ...joints.map((j) => ({ ...j, of: undefined, place: j.number })),
    // A reach is worked at for days: that it is in work asks nobody.
    ...reaches.map((r) => ({ ...r, of: 'reach' as const, place: r.name, station: r.from })),
  ]
  for (const j of judged) {
    const base = {
      subject: j.id,
      ...(j.of && { of: j.of }),
      place: j.place,
      station: j.station,
      crew: crewName(j.crew),
    }
    for (const h of j.summary.holds)
      items.push({
        ...base,
        kind: 'hold',
        step: h.step,
        title: h.title,
        detail: 'Release requested',
        since: h.since,
        due: null,
      })
    for (const i of j.summary.invited ?? [])
      items.push({
        ...base,
        kind: 'invitation',
        step: i.step,
        title: i.title,
        detail: i.state === 'accepted' ? 'The witness will come' : 'The witness has not answered yet',
        since: null,
        due: i.for,
      })
    // What is asked of the crew waits for its lead, and for an inspector who may answer for it.
    for (const a of j.summary.asked ?? [])
      if (actor.crew !== null || a.to === 'inspector')
        items.push({
          ...base,
          kind: 'query',
          step: a.step,
          title: a.title,
          detail: `${a.kind === 'query' ? 'Asked' : 'Condition of the release'}: ${a.text}`,
          since: a.since,
          due: null,
        })
    for (const d of j.summary.drafts)
      items.push({
        ...base,
        kind: 'draft',
        step: d.step,
        title: 'Nonconformance drafted',
        detail: `${d.criterion} – found: ${d.reading}`,
        since: null,
        due: null,
      })
    for (const c of j.summary.clocks) {
      if (c.until > now + 12 * HOUR) continue
      if (c.until > now)
        items.push({
          ...base,
          kind: 'clock',
          step: c.step,
          title: c.title,
          detail: c.action ?? 'Runs by itself',
          since: c.startedAt,
          due: c.until,
        })
      else if (c.action)
        items.push({
          ...base,
          kind: 'action',
          step: c.step,
          title: c.title,
          detail: c.action,
          since: c.until,
          due: c.until,
        })
    }
  }
  for (const c of coming)
    if (c.forecast.at < now + SOON && (c.witness || !comesToSee(actor)))
      items.push({
        ...{ kind: 'coming', subject: c.joint, step: c.step, title: c.title, place: c.number },
        ...{ station: c.station, crew: crewName(c.crew), since: null, due: c.forecast.at },
        detail: comingWords[comesToSee(actor) ? 'W' : c.point],
        span: { from: c.forecast.from, to: c.forecast.to, of: c.forecast.of },
      })
  for (const n of ncrs)
    if (n.state !== 'closed')
      items.push({
        kind: 'ncr',
        subject: n.id,
        step: n.step,
        title: n.number,
        place: n.place,
        station: null,
        crew: crewName(n.crew),
        detail: {
          open: 'Waits for the engineer’s disposition',
          disposed: `To do: ${n.disposition}`,
          reworked: 'Rework waits to be verified',
        }[n.state as 'open'],
        since: Date.parse(n.raisedAt),
        due: n.due === null || n.state === 'reworked' ? null : endOfDay(n.due, project.zone),
      })
  // A concession waits for the client where the plan says so.
  for (const n of comesToSee(actor) ? ncrs : [])
    if (n.state !== 'closed' && n.disposition === 'use-as-is' && (await waitsForClient(db, project, n)))
      items.push({
        ...{ kind: 'concession', subject: n.id, step: n.step, title: n.number, place: n.place },
        ...{ station: null, crew: crewName(n.crew), detail: 'A concession waits for the client’s word' },
        ...{ since: Date.parse(n.raisedAt), due: null },
      })
  if (!actor.crew) {
    const soon = now + 16 * HOUR
    for (const p of packs)
      if ((p.state === 'planned' || p.state === 'running') && p.dueAt && Date.parse(p.dueAt) < soon)
        items.push({
          kind: 'test',
          subject: p.id,
          step: null,
          title: p.state === 'running' ? 'Test running' : 'Test due',
          place: p.number,
          station: p.from,
          crew: null,
          detail: wordedIn(wordsFor(project), () => showStretch(p.from, p.to)),
          since: null,
          due: Date.parse(p.dueAt),
        })
    items.push(...(await invitedTests(db, project, packs, now)))
    items.push(...(await yardWork(db, project, now)))
    for (const d of deliveries)
      if (d.state === 'open')
        items.push({
          kind: 'delivery',
          subject: d.id,
          step: null,
          title: 'Delivery to inspect',
          place: d.number,
          station: null,
          crew: null,
          detail: d.waiting > 0 ? `${d.waiting} of ${d.items} items to look at` : 'To be signed',
          since: Date.parse(d.receivedAt),
          due: null,
        })
  }
  const seen = comesToSee(actor) ? items.filter((i) => toSee.has(i.kind)) : items
  return seen.sort((a, b) => urgency(a, now) - urgency(b, now))
}

/** Tests that somebody was invited to see, as long as nobody has come. */
async function invitedTests(db: Knex, project: Project, packs: readonly Pack[], now: number) {
  const open = packs.filter((p) => p.state === 'planned' || p.state === 'running')
  const records = await entriesOfMany(
    db,
    open.map((p) => p.id),
  )
  return open.flatMap((p): TodayItem[] => {
    const invited = witnessAt(project, standing((records.get(p.id) ?? []).map(forCore)))
    if (invited.for === null || invited.for < now - 12 * HOUR) return []
    if (invited.state !== 'invited' && invited.state !== 'accepted') return []
    return [
      {
        ...{ kind: 'invitation', subject: p.id, of: 'pack', step: WITNESS, place: p.number },
        ...{ title: 'Pressure test', station: p.from, crew: null, since: null, due: invited.for },
        detail: invited.state === 'accepted' ? 'The witness will come' : 'The witness has not answered yet',
      },
    ]
  })
}

const comingWords = { H: 'Hold point', W: 'Witness point', S: 'Drawn to be watched' } as const

/** Whoever only comes to see sees points and tests. */
const toSee: ReadonlySet<TodayItem['kind']> = new Set(['invitation', 'coming', 'test', 'concession'])
const comesToSee = (actor: Actor) => actor.roles.every((role) => role === 'witness')

const DAY = 24 * HOUR
const WARN_DAYS = 14

/** Lots of consumables that end soon or have ended, and storage rounds that are due. */
async function yardWork(db: Knex, project: Project, now: number): Promise<TodayItem[]> {
  const [lots, places] = await Promise.all([limitedLots(db, project.id), placesOf(db, project.id)])
  const base = { step: null, station: null, crew: null }
  const ending = lots
    .filter((l) => l.kind === 'consumable' && !l.quarantinedAt)
    .flatMap((l): TodayItem[] => {
      const end = shelfEnd(l, project.zone)
      if (!end || end.at > now + WARN_DAYS * DAY) return []
      return [
        {
          ...base,
          kind: 'lot',
          subject: l.id,
          title: end.at < now ? 'Lot past its date' : 'Lot ends soon',
          place: l.lot,
          detail: `${l.title ?? ''}, ${end.why} ${dayOf(end.at, project.zone)}`,
          since: null,
          due: end.at,
        },
      ]
    })
  const rounds = places
    .filter((p) => p.lastRound === null || Date.parse(p.lastRound) + p.everyDays * DAY < now + 12 * HOUR)
    .map((p): TodayItem => ({
      ...base,
      kind: 'round',
      subject: p.id,
      title: 'Storage round due',
      place: p.name,
      detail: p.lastRound ? `every ${p.everyDays} days` : 'not looked at yet',
      since: null,
      due: p.lastRound ? Date.parse(p.lastRound) + p.everyDays * DAY : now,
    }))
  return [...ending, ...rounds]
}

/**
 * Smaller is more urgent: people standing at a hold by how long, then work that may go on, then what
 * comes.
 */
function urgency(item: TodayItem, now: number): number {
  const order: Record<TodayItem['kind'], number> = {
    hold: 0,
    invitation: 1,
    coming: 1,
    action: 2,
    query: 2,
    concession: 2,
    draft: 3,
    ncr: 4,
    delivery: 5,
    test: 5,
    clock: 6,
    round: 7,
    lot: 8,
  }
  const overdue = item.kind === 'ncr' && item.due !== null && item.due < now
  const within = ['coming', 'invitation', 'clock', 'test', 'round', 'lot'].includes(item.kind)
    ? (item.due ?? now)
    : (item.since ?? now)
  return (overdue ? order.action : order[item.kind]) * 1e14 + within
}
