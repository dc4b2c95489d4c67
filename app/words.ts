import type { SubjectState } from '#core/judgement/types'
import type { Moisture, Plant, Side } from '#core/checks/lifts'
import { partyTitles, pointTitles } from '#core/plan/points'
import type { StepState } from '#core/checks/verdict'
import type { End } from '#core/procedure/ends'
import { roles, type Role } from '#core/access'
import type { SiteUnits } from '#core/quantity/site-units'

/** The interface's words in one place, so that a translation is a file. */
export const stateWords: Record<StepState | SubjectState, string> = {
  accepted: 'Accepted',
  rejected: 'Rejected',
  'too-close': 'Too close to call',
  waiting: 'Waiting',
  overdue: 'Overdue',
  held: 'Held',
  blocked: 'Blocked',
  differs: 'Differs',
  'not-started': 'Not started',
  'not-applicable': 'Does not apply',
  'in-work': 'In work',
  withdrawn: 'Withdrawn',
}

/** What a site reads its figures in. */
export const unitsWords: Record<SiteUnits, string> = {
  metric: 'Metric',
  us: 'US',
  'as-written': 'As each procedure is written',
}

export const roleWords = Object.fromEntries(
  Object.entries(roles).map(([role, { title }]) => [role, title]),
) as Record<Role, string>

export const endWords: Record<End, string> = { upstream: 'Upstream', downstream: 'Downstream' }

export const sideWords: Record<Side, string> = { left: 'Left', right: 'Right', both: 'Both sides' }
export const plantWords: Record<Plant, string> = {
  hand: 'Hand tool',
  plate: 'Plate',
  roller: 'Roller',
  vehicle: 'Vehicle',
  none: 'Nothing',
}
export const moistureWords: Record<Moisture, string> = { dry: 'Dry', damp: 'Damp', wet: 'Wet' }

export const pointWords = pointTitles

/** Who comes to look. */
export const partyWords = partyTitles

export const failureWords: Record<string, string> = {
  rework: 'Rework',
  recut: 'Cut again',
  replace: 'Replace',
  reject: 'Reject',
  consult: 'Ask first',
}

export const lineResultWords: Record<string, string> = {
  right: 'Right',
  short: 'Short',
  over: 'Over',
  'wrong-class': 'Wrong class',
  'wrong-lot': 'Wrong lot',
  'not-ordered': 'Not ordered',
}

export const itemStateWords: Record<string, string> = {
  received: 'To inspect',
  accepted: 'Accepted',
  remark: 'Accepted with remark',
  quarantined: 'Quarantined',
  returned: 'Returned',
}

export const shelfWords = {
  good: 'Good until',
  soon: 'Ends',
  expired: 'Ended',
  unlimited: 'No date',
} as const

export const storedWords = {
  'plastic pipe': 'Plastic pipe',
  'rigid pipe': 'Rigid pipe',
  fittings: 'Fittings',
  gaskets: 'Gaskets and seals',
  compounds: 'Cement and compounds',
} as const

export const originWords: Record<string, string> = {
  item: 'Item',
  lot: 'Lot',
  delivery: 'Delivery',
  instrument: 'Instrument',
  person: 'Operator',
  crew: 'Crew',
  procedure: 'Procedure',
  joint: 'Joint',
  reach: 'Reach',
  pack: 'Test pack',
}

export const ncrStateWords: Record<string, string> = {
  open: 'Open',
  disposed: 'Rework due',
  reworked: 'To verify',
  closed: 'Closed',
}

export const packStateWords: Record<string, string> = {
  planned: 'Planned',
  running: 'Running',
  evaluated: 'To sign',
  signed: 'Signed',
  failed: 'Failed',
  withdrawn: 'Withdrawn',
}

/** What a test says, in words and as a state to draw. */
export const testVerdictWords: Record<string, string> = {
  accept: 'Accepted',
  reject: 'Not accepted',
  'too-close': 'Too close to call',
  incomplete: 'Not complete',
}
export const testVerdictStates: Record<string, 'accepted' | 'rejected' | 'too-close' | 'waiting'> = {
  accept: 'accepted',
  reject: 'rejected',
  'too-close': 'too-close',
  incomplete: 'waiting',
}
export const packStateGlyphs: Record<
  string,
  'accepted' | 'rejected' | 'waiting' | 'in-work' | 'not-started' | 'withdrawn'
> = {
  planned: 'not-started',
  running: 'waiting',
  evaluated: 'in-work',
  signed: 'accepted',
  failed: 'rejected',
  withdrawn: 'withdrawn',
}

export const partWords = {
  document: 'Document',
  fact: 'Fact',
  option: 'School',
  table: 'Table',
  drawing: 'Drawing',
  step: 'Step',
} as const

export const procedureStateWords: Record<string, string> = {
  draft: 'Draft',
  'in-review': 'In review',
  reviewed: 'Reviewed',
  issued: 'Issued',
  superseded: 'Superseded',
}

/**
 * Inputs and outputs of calculators whose key alone would not say enough; the others are their keys,
 * spelled out.
 */
const quantityWords: Record<string, string> = {
  od: 'Outside diameter',
  id: 'Inside diameter',
  casingId: 'Casing inside diameter',
  pipeOd: 'Pipe outside diameter',
  dr: 'Dimension ratio',
  p: 'Shares of bad items',
  k: 'Length factor',
  min: 'Smallest',
  max: 'Largest',
  ok: 'Within the allowance',
  percent: 'In percent',
  undoAt: 'Clamps off at',
  testAt: 'Earliest test at',
  over: 'Over-length',
  order: 'Order of the bolts',
  from: 'From',
  to: 'To',
  sample: 'Sample size',
  lot: 'Lot size',
  acceptance: 'Bad items allowed',
  pascalPerKelvin: 'Change of pressure',
  litresPerHour: 'Allowance',
  litres: 'Allowance',
  seconds: 'Time',
  // What one calculator alone means by a key.
  'cement-cure wet': 'Wet weather',
  'guard-band min': 'Smallest allowed',
  'guard-band max': 'Largest allowed',
  'sand-replacement wet': 'Wet density',
  'sand-replacement dry': 'Dry density',
  'density-field dry': 'Dry density',
  'density-field maximum': 'Maximum dry density',
}
export const quantityWord = (name: string, calculator = ''): string => {
  for (const key of [`${calculator} ${name}`, name])
    if (Object.hasOwn(quantityWords, key)) return quantityWords[key]!
  const words = name.replace(/([A-Z])/g, ' $1').toLowerCase()
  return words[0]!.toUpperCase() + words.slice(1)
}

export const subjectWords: Record<string, string> = {
  'pipe end': 'Pipe ends',
  joint: 'Joints',
  homing: 'Homing',
  cement: 'Solvent cement',
  making: 'Making',
  lifting: 'Lifting and stacking',
  sampling: 'Sampling',
  soil: 'Soil',
  embedment: 'Embedment',
  levelling: 'Levels',
  hydro: 'Pressure and thrust',
  'gravity tests': 'Gravity line tests',
  judgement: 'Judgement',
}

export const placeWords = {
  upstream: 'Upstream pipe',
  downstream: 'Downstream pipe',
  fitting: 'Fitting',
} as const

/** What is done again in the place of an entry. */
export const againWords: Record<string, string> = { lift: 'Laid again', density: 'Test beside it' }

export const entryWords: Record<string, string> = {
  reading: 'Reading',
  confirmation: 'Answer',
  gathered: 'Register',
  levels: 'Levels',
  survey: 'Survey',
  grout: 'Grout',
  choice: 'Choice',
  count: 'Count',
  clock: 'Clock',
  lot: 'Lot',
  remark: 'Remark',
  photo: 'Photo',
  request: 'Release requested',
  invitation: 'Witness invited',
  reply: 'Witness answered',
  attendance: 'Witness',
  concession: 'Client',
  query: 'Query',
  response: 'Answer',
  watch: 'Watched',
  release: 'Released',
  refusal: 'Refused',
  waiver: 'Waived',
  decision: 'Decision',
  signature: 'Signed',
  correction: 'Struck',
  ncr: 'Nonconformance',
  draft: 'Draft saved',
  submit: 'Given to review',
  review: 'Reviewed',
  issue: 'Issued',
  supersede: 'Superseded',
  raise: 'Raised',
  disposition: 'Disposition',
  rework: 'Rework done',
  verification: 'Verification',
  action: 'Corrective action',
  done: 'Action done',
  lift: 'Lift',
  density: 'Density test',
  start: 'Test started',
  run: 'Log kept',
  evaluation: 'Evaluated',
  receipt: 'Received',
  inspection: 'Inspected',
}

export { causeWords, dispositionWords } from '#core/ncr/words'

/** The kind of machine, out of what a browser says of itself. */
export const deviceWords = (client: string): string =>
  /Mobi|Android|Tablet/.test(client)
    ? 'A phone or tablet'
    : client.includes('Mozilla')
      ? 'A computer'
      : 'Another program'
