import { standing } from '../judgement/standing'
import type { Entry } from '../record/entry'

/** What is seen to when the pressure has done its work. */
export interface AfterRow {
  key: string
  title: string
  why: string
  /** what may be said; a person who only confirms says `yes` */
  answers: readonly { key: string; title: string }[]
  answer: string | null
  by: string | null
  /** ms */
  at: number | null
}

const yes = [{ key: 'yes', title: 'Done' }] as const
const rows = [
  {
    key: 'depressurised',
    title: 'Depressurised slowly, at the controlled valve',
    why: 'A fast release sucks at seals and hammers; nobody stands before a closure until the gauge reads nothing.',
    answers: yes,
  },
  {
    key: 'vented',
    title: 'Vented at the high points before anything was loosened',
    why: 'Air that was trapped keeps its pressure behind a closure when the gauge reads nothing.',
    answers: yes,
  },
  {
    key: 'left',
    title: 'Left filled or emptied',
    why: 'A filled line bursts in frost; an empty one can float in a wet trench and dries out cement linings.',
    answers: [
      { key: 'filled', title: 'Filled, safe from frost' },
      { key: 'emptied', title: 'Emptied' },
    ],
  },
] as const

/**
 * What comes after a test, with what was said of it since the last run was started.
 *
 * @param air the line was filled with air, so nothing is left in it
 */
export function afterTest(entries: readonly Entry[], air: boolean): AfterRow[] {
  const stands = standing(entries)
  const since = stands.slice(stands.findLastIndex((e) => e.kind === 'start') + 1)
  return rows
    .filter((r) => !(air && r.key === 'left'))
    .map((r) => {
      const said = since.findLast((e) => e.step === r.key && e.kind === 'choice')
      return {
        ...r,
        answer: said ? String(said.payload.answer) : null,
        by: said?.person ?? null,
        at: said?.recordedAt ?? null,
      }
    })
}

/** Whether such an answer can be given to such a row. */
export const answersAfter = (row: string, answer: string, air: boolean): boolean =>
  afterTest([], air).some((r) => r.key === row && r.answers.some((a) => a.key === answer))
