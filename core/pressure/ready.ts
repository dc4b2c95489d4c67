import type { Sight } from './could-see'
import { fitsRange } from './gauge-range'
import { sayValue } from './report'
import type { TestReadiness } from '../judgement/types'
import type { WitnessJudgement } from '../judgement/witness'
import { showDuration, showQuantity } from '../quantity/show'

export type ReadyState = 'open' | 'met' | 'not-applicable'

export interface ReadyRow {
  key: string
  title: string
  state: ReadyState
  sentence: string
  /** where the evidence is: a joint, NCR or reach, or null for what a person confirms */
  evidence: { type: 'joint' | 'ncr' | 'reach' | 'instrument'; id: string; label: string }[]
  /** a person confirms it, as the tool cannot see it */
  confirmable: boolean
  /** picture that a person took of it */
  photo: string | null
}

export interface ReadyFacts {
  now: number
  joints: ({ id: string; number: string; heldSteps: number } & TestReadiness)[]
  ncrs: { id: string; number: string; open: boolean; conceded: boolean }[]
  reaches: { id: string; name: string; state: string }[]
  gauge: { id: string; name: string; max: number; calibratedUntil: number } | null
  testPressure: number
  /** what the gauge leaves in doubt against what is allowed; null where nothing of the kind is judged */
  sight: Sight | null
  plan: { highOk: boolean; lowOk: boolean }
  material: string
  methodMaterial: string
  /** why an engineer takes a method that is meant for another material */
  methodReason: string | null
  /** rows that a person has confirmed, with the name */
  confirmed: Record<string, { by: string; photo: string | null }>
  /** who was invited to see the test, and what was answered */
  witness: WitnessJudgement
}

const confirmations: [key: string, title: string][] = [
  ['restraint', 'End restraint and blocks in place and cured'],
  ['filled', 'Line flushed, filled, air let out, temperature settled'],
  ['sensor', 'Temperature sensor on the pipe, logger running'],
  ['exclusion', 'Exclusion zone and signs set, relief valve set'],
]

/** The row of the witness, and the step under which the record keeps who was invited. */
export const WITNESS = 'witness'

/** "Ready to test?": each row open, met or not applicable, with its evidence. */
export function readyList(facts: ReadyFacts): ReadyRow[] {
  const row = (
    key: string,
    title: string,
    open: boolean,
    sentence: string,
    evidence: ReadyRow['evidence'] = [],
    confirmable = false,
  ): ReadyRow => ({
    ...{ key, title, state: open ? 'open' : 'met', sentence, evidence, confirmable },
    photo: facts.confirmed[key]?.photo ?? null,
  })
  const joint = (j: ReadyFacts['joints'][number]) => ({ type: 'joint' as const, id: j.id, label: j.number })
  const unfinished = facts.joints.filter((j) => !j.ready)
  const clocks = facts.joints.filter((j) => j.gated && (j.at === null || j.at > facts.now))
  const running = clocks.filter((j) => j.at !== null).sort((a, b) => b.at! - a.at!)
  const held = facts.joints.filter((j) => j.heldSteps > 0)
  const openNcrs = facts.ncrs.filter((n) => n.open && !n.conceded)
  const openReaches = facts.reaches.filter((r) => r.state !== 'accepted')
  const some = <T>(list: T[], name: (item: T) => string) =>
    list.slice(0, 4).map(name).join(', ') + (list.length > 4 ? ` and ${list.length - 4} more` : '')
  const gaugeFault = !facts.gauge
    ? 'No gauge is chosen.'
    : facts.gauge.calibratedUntil < facts.now
      ? `${facts.gauge.name} is out of calibration.`
      : !fitsRange(facts.testPressure, facts.gauge.max)
        ? `Test pressure ${showQuantity(facts.testPressure, 'pressure', 'kPa')} is not between ` +
          `25 and 75 % of the span of ${facts.gauge.name}.`
        : null
  /** By the invitation where there is one; else somebody says that the witness was told otherwise. */
  function witnessRow(): ReadyRow {
    const { state, short, sentence, notice } = facts.witness
    const title = 'Witness told in time'
    const by = facts.confirmed[WITNESS]
    if (state === 'not-invited')
      return row(WITNESS, title, !by, by ? `Confirmed by ${by.by}.` : 'Not invited yet.', [], true)
    const settled = state === 'accepted' || state === 'attended'
    const said = notice === null ? sentence : `${sentence} Told ${showDuration(Math.max(0, notice))} before.`
    return row(WITNESS, title, short && !settled && !by, said, [], short && !settled)
  }
  return [
    row(
      'joints',
      'Every joint accepted',
      facts.joints.length === 0 || unfinished.length > 0,
      facts.joints.length === 0
        ? 'There is no joint in this section.'
        : unfinished.length === 0
          ? `${facts.joints.length} ${facts.joints.length === 1 ? 'joint' : 'joints'} accepted.`
          : `Not accepted: ${some(unfinished, (j) => j.number)}.`,
      unfinished.slice(0, 8).map(joint),
    ),
    row(
      'clocks',
      'Earliest-test times passed',
      clocks.length > 0,
      running.length > 0
        ? `Time still runs at: ${some(running, (j) => j.number)}.`
        : clocks.length > 0
          ? `Not known yet when: ${some(clocks, (j) => j.number)}.`
          : 'No time holds the test back.',
      (running.length > 0 ? running : clocks).slice(0, 8).map(joint),
    ),
    row(
      'holds',
      'Hold points released',
      held.length > 0,
      held.length > 0 ? `Held: ${some(held, (j) => j.number)}.` : 'None is held.',
      held.slice(0, 8).map(joint),
    ),
    row(
      'ncrs',
      'Nonconformances closed or conceded',
      openNcrs.length > 0,
      openNcrs.length > 0 ? `Open: ${some(openNcrs, (n) => n.number)}.` : 'None is open.',
      openNcrs.slice(0, 8).map((n) => ({ type: 'ncr', id: n.id, label: n.number })),
    ),
    row(
      'embedment',
      'Embedment to the required level',
      openReaches.length > 0,
      openReaches.length > 0
        ? `Not complete: ${some(openReaches, (r) => r.name)}.`
        : facts.reaches.length === 0
          ? 'No reach is laid out here.'
          : 'Complete.',
      openReaches.slice(0, 8).map((r) => ({ type: 'reach', id: r.id, label: r.name })),
    ),
    row(
      'profile',
      'Pressure right along the profile',
      !facts.plan.highOk || !facts.plan.lowOk,
      !facts.plan.highOk
        ? 'The highest point sees too little.'
        : !facts.plan.lowOk
          ? 'The lowest component would be overloaded.'
          : 'Highest point reached, lowest within its class.',
    ),
    row(
      'method',
      'Method fits the material',
      facts.material !== facts.methodMaterial && facts.methodReason === null,
      facts.material === facts.methodMaterial
        ? `A method for ${facts.methodMaterial}.`
        : `The method is for ${facts.methodMaterial}, the line is ${facts.material}` +
            (facts.methodReason === null ? '.' : `: ${facts.methodReason}`),
    ),
    row(
      'gauge',
      'Gauge in calibration, range fits',
      gaugeFault !== null,
      gaugeFault ?? `${facts.gauge!.name}.`,
      facts.gauge ? [{ type: 'instrument', id: facts.gauge.id, label: facts.gauge.name }] : [],
    ),
    ...(facts.sight
      ? [
          row(
            'sight',
            'Gauge fine enough for what is allowed',
            facts.sight.doubt >= facts.sight.allowed,
            facts.sight.doubt >= facts.sight.allowed
              ? `It leaves ${sayValue(facts.sight.doubt, facts.sight.unit)} in doubt where ` +
                  `${sayValue(facts.sight.allowed, facts.sight.unit)} are allowed: hold longer, or take a finer one.`
              : `It leaves ${sayValue(facts.sight.doubt, facts.sight.unit)} in doubt, ` +
                  `${sayValue(facts.sight.allowed, facts.sight.unit)} are allowed.`,
          ),
        ]
      : []),
    ...confirmations.map(([key, title]) =>
      row(
        key,
        title,
        !(key in facts.confirmed),
        facts.confirmed[key] ? `Confirmed by ${facts.confirmed[key].by}.` : 'To be confirmed on site.',
        [],
        true,
      ),
    ),
    witnessRow(),
  ]
}

/** Keys of the rows that a person confirms. */
export const confirmableRows = [...confirmations.map(([key]) => key), WITNESS]
