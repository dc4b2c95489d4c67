import type { Cause } from '../core/ncr/causes'
import { correctiveAction } from '../server/services/ncr-depth'
import { disposeNcr, raiseNcr, reworkNcr, verifyNcr } from '../server/services/ncrs'
import { findJoint } from '../server/db/joints'
import { entriesOf } from '../server/db/entries'
import type { Made } from './joint-entries'
import { DAY, HOUR, MINUTE, write, type Ground } from './ground'

interface Fault {
  step: string
  /** what was read, SI and as it was typed; and what was read after it was mended */
  bad: [values: number[], typed: string[]]
  good: [values: number[], typed: string[]]
  cause: Cause
  decided: string
  mended: string
}

const square: Fault = {
  step: 'square',
  bad: [
    [0.0081, 0.0024],
    ['8.1', '2.4'],
  ],
  good: [
    [0.0019, 0.0021],
    ['1.9', '2.1'],
  ],
  cause: 'preparation',
  decided: 'Cut the end again with the guided cutter.',
  mended: 'Cut again with the guide.',
}
const gouge: Fault = {
  step: 'gouge',
  bad: [[0.0041], ['4.1']],
  good: [[0.0008], ['0.8']],
  cause: 'material',
  decided: 'Cut the gouged end off; slings and not chains from now on.',
  mended: 'A hundred millimetres cut off, lifted in slings.',
}
const stab: Fault = {
  step: 'stab-check',
  bad: [
    [0.014, 0.001],
    ['14', '1'],
  ],
  good: [
    [0.0005, 0.001],
    ['0.5', '1'],
  ],
  cause: 'marks',
  decided: 'Draw it out, mark both ends anew from the socket and push it home.',
  mended: 'Marked anew with the rule, pushed home.',
}
const peel: Fault = {
  step: 'peel-depth',
  bad: [
    [0.00006, 0.0003],
    ['0.06', '0.3'],
  ],
  good: [
    [0.00029, 0.00031],
    ['0.29', '0.31'],
  ],
  cause: 'tool',
  decided: 'Change the blade and peel again.',
  mended: 'New blade, peeled again.',
}
const ovality: Fault = {
  step: 'ovality',
  bad: [
    [0.3225, 0.3152, 0.309, 0.3155],
    ['322.5', '315.2', '309', '315.5'],
  ],
  good: [
    [0.3157, 0.3152, 0.3151, 0.3155],
    ['315.7', '315.2', '315.1', '315.5'],
  ],
  cause: 'tool',
  decided: 'Re-round with the clamps and measure again before it is wiped.',
  mended: 'Clamps set closer to the end, measured again.',
}

/**
 * What two crews are like, by the number of the joint in the rising main: Crew North learns, Crew Harbour
 * makes one fault again and again.
 */
const faults: Record<number, Fault> = {
  ...{ 4: square, 9: gouge, 14: stab, 19: peel, 22: square, 52: gouge, 63: stab, 101: square },
  ...{ 27: ovality, 35: ovality, 42: ovality, 80: ovality, 92: ovality, 131: ovality, 143: ovality },
  ...{ 179: ovality, 190: ovality, 219: ovality },
}

/** The joint as its crew made it: with what went wrong there, if something did. */
export function asMade(n: number, made: Made[]): Made[] {
  const fault = faults[n]
  if (!fault) return made
  const [values, typed] = fault.bad
  return made.map((m) => (m.step === fault.step ? { ...m, payload: { values, typed } } : m))
}

const dayOf = (at: number) => new Date(at).toISOString().slice(0, 10)
/** What was reported longer ago than this is mended and verified. */
const SETTLED = 2 * DAY

/** Reports what went wrong at a joint, and how it was mended; a third time asks for a corrective action. */
export async function layFault(g: Ground, n: number, joint: string, lead: 'tam' | 'rhona'): Promise<void> {
  const fault = faults[n]
  if (!fault) return
  const { db, people, project, random, now } = g
  const record = await entriesOf(db, joint)
  const end = Date.parse(record.at(-1)!.receivedAt)
  const draft = (await findJoint(db, project.id, joint))!.summary.drafts.find((d) => d.step === fault.step)!
  const id = await raiseNcr(
    db,
    project,
    people.ines!,
    { id: random.id(end), subjectType: 'joint', subject: joint, step: fault.step, photo: null },
    { criterion: draft.criterion, reading: draft.reading },
    new Date(end + 20 * MINUTE),
  )
  const at = (hours: number) => new Date(end + hours * HOUR)
  const decided = {
    ...{ disposition: 'rework' as const, cause: fault.cause, due: dayOf(end + 2 * DAY) },
    reason: fault.decided,
  }
  await disposeNcr(db, people.petra!, id, decided, at(2))
  const third = [42, 219].includes(n)
  const action = (due: number) => ({
    text: 'Both pipes are re-rounded before they are measured, and the clamps of the second set changed.',
    ...{ owner: people[lead]!.person, due: dayOf(due) },
  })
  if (third) await correctiveAction(db, project, people.petra!, id, action(end + 3 * DAY), at(2.5))
  if (now - end < SETTLED) return
  await reworkNcr(db, people[lead]!, id, fault.mended, null, at(3))
  const [values, typed] = fault.good
  const tool = record.find((e) => e.step === fault.step)!.instrument
  await write(g, 'joint', joint, lead, [
    { kind: 'reading', step: fault.step, payload: { values, typed }, instrument: tool, at: end + 3.2 * HOUR },
  ])
  if (third) {
    const { id: asked } = (await entriesOf(db, id)).find((e) => e.kind === 'action')!
    const done = { action: asked, text: 'Clamps changed; both pipes re-rounded since.' }
    await correctiveAction(db, project, people[lead]!, id, done, at(20))
  }
  await verifyNcr(db, project, people.oskar!, id, true, 'Seen and measured.', at(third ? 21 : 4))
}
