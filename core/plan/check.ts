import type { Role } from '../access'
import { fitsRange } from '../pressure/gauge-range'

/** What a project has so far, counted. */
export interface Planned {
  lines: { name: string; points: number; joints: number; reaches: number }[]
  /** procedures that joints and reaches are planned for, and where */
  systems: { key: string; lines: string[]; issued: boolean; inHand: boolean }[]
  crews: { name: string; leads: number; joints: number }[]
  /** people who have come in and may act, by role */
  roles: Partial<Record<Role, number>>
  /** how many have a link that nobody used yet */
  waiting: number
  /** instruments in calibration */
  instruments: number
  instrumentsOut: number
  articles: number
  /** test packs with the pressure at their gauge, Pa; 0 where none is planned */
  packs: { number: string; testPressure: number; gauge: PlannedGauge | null }[]
}

export interface PlannedGauge {
  name: string
  /** Pa */
  max: number
  inCalibration: boolean
}

/** What is wrong with the gauge of a pack; nothing where it fits. */
function gaugeFault({ testPressure, gauge }: Planned['packs'][number]): string | null {
  if (!gauge) return 'has no gauge'
  if (!gauge.inCalibration) return `has ${gauge.name}, which is out of calibration`
  if (testPressure > 0 && !fitsRange(testPressure, gauge.max))
    return `has no gauge whose range fits: its pressure lies outside 25 to 75 % of the span of ${gauge.name}`
  return null
}

export interface PlanFinding {
  code: string
  /** what misses, or what stands */
  sentence: string
  /** nothing can be made without it; else it only helps */
  needed: boolean
  /** where it is mended */
  where: 'people' | 'lines' | 'procedures' | 'joints' | 'reaches' | 'packs' | 'instruments' | 'articles'
}

/** What still misses before a crew can work, the needed first; nothing where everything is there. */
export function planCheck(plan: Planned): PlanFinding[] {
  const out: PlanFinding[] = []
  const misses = (where: PlanFinding['where'], code: string, sentence: string, needed = true) =>
    out.push({ code, sentence, needed, where })

  if (plan.lines.length === 0) misses('lines', 'no-line', 'The project has no line yet.')
  for (const line of plan.lines) {
    if (line.joints === 0) misses('joints', 'no-joint', `${line.name} has no joint planned.`)
    if (line.points < 2)
      misses(
        'lines',
        'no-profile',
        `${line.name} has no profile: pressures along it cannot be worked out.`,
        false,
      )
    if (line.reaches === 0 && line.joints > 0)
      misses(
        'reaches',
        'no-reach',
        `${line.name} is not cut into reaches: its embedment is not recorded.`,
        false,
      )
  }
  for (const { key, lines, issued, inHand } of plan.systems)
    if (!issued)
      misses(
        'procedures',
        'not-issued',
        `${lines.join(' and ')} ${lines.length > 1 ? 'have' : 'has'} no issued procedure for "${key}"${
          inHand ? ': it waits for review and issue' : ''
        }.`,
      )
  if (plan.crews.length === 0) misses('people', 'no-crew', 'There is no crew yet.')
  for (const crew of plan.crews) {
    if (crew.leads === 0)
      misses('people', 'no-lead', `${crew.name} has no lead who has come in.`, crew.joints > 0)
    if (crew.joints === 0) misses('joints', 'idle-crew', `${crew.name} has no joint planned.`, false)
  }
  const role = (key: Role) => plan.roles[key] ?? 0
  if (role('inspector') === 0)
    misses('people', 'no-inspector', 'Nobody who has come in is an inspector: no hold point can be released.')
  if (role('engineer') === 0)
    misses('people', 'no-engineer', 'Nobody who has come in is an engineer: no procedure can be issued.')
  else if (role('engineer') === 1)
    misses(
      'people',
      'one-engineer',
      'There is one engineer: a procedure is reviewed by another than its author.',
    )
  if (role('witness') === 0)
    misses('people', 'no-witness', 'Nobody is a witness: no pressure test can be witnessed.', false)
  if (plan.instruments === 0)
    misses('instruments', 'no-instrument', 'No instrument is in calibration: readings would not count.')
  if (plan.instrumentsOut > 0)
    misses('instruments', 'out', `${plan.instrumentsOut} instruments are out of calibration.`, false)
  if (plan.waiting > 0)
    misses('people', 'waiting', `${plan.waiting} people have not used their link yet.`, false)
  if (plan.articles === 0)
    misses(
      'articles',
      'no-article',
      'The catalogue is empty: facts of pipe and fittings are typed at each joint.',
      false,
    )
  for (const pack of plan.packs) {
    const fault = gaugeFault(pack)
    if (fault) misses('packs', 'gauge', `${pack.number} ${fault}.`, false)
  }
  return out.sort((a, b) => Number(b.needed) - Number(a.needed))
}
