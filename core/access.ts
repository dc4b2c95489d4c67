/** Who may do what: the only place that says so. Routes, use cases and the interface ask here. */

export const roles = {
  inspector: { title: 'Inspector' },
  'crew-lead': { title: 'Crew lead' },
  engineer: { title: 'Engineer' },
  storekeeper: { title: 'Storekeeper' },
  witness: { title: 'Witness' },
  administrator: { title: 'Administrator' },
} as const
export type Role = keyof typeof roles

const checkers = ['inspector', 'crew-lead'] as const
const writers = ['inspector', 'crew-lead', 'engineer'] as const
const office = ['inspector', 'engineer', 'storekeeper', 'witness'] as const
const keepers = ['inspector', 'storekeeper'] as const
const testers = ['inspector', 'engineer'] as const

/**
 * What people do, and in which roles they may. Of somebody who has several of them the first named is the
 * role that the record shows.
 */
export const actions = {
  'see-project': ['inspector', 'crew-lead', 'engineer', 'storekeeper', 'witness', 'administrator'],
  'see-site': ['inspector', 'crew-lead', 'engineer', 'storekeeper', 'witness'],
  'see-office': office,
  'keep-device': [...writers, 'storekeeper'],
  'keep-files': [...writers, 'storekeeper'],
  'verify-record': ['inspector', 'engineer', 'administrator'],

  'open-work': checkers,
  record: checkers,
  'send-entries': writers,
  'sign-off': testers,
  'sign-shift': ['crew-lead', 'inspector'],
  'release-hold': ['inspector'],
  'decide-answer': ['inspector'],
  'plan-round': testers,
  'see-points': ['inspector', 'crew-lead', 'engineer', 'witness'],
  'answer-invitation': ['witness'],
  /** reads the record, asks about it, stands by */
  'read-record': ['inspector', 'engineer', 'witness'],
  waive: testers,

  'order-goods': ['engineer', 'inspector'],
  'receive-goods': ['inspector'],
  'enter-lot': [...checkers, 'storekeeper'],
  'date-lot': ['inspector'],
  quarantine: testers,
  'end-quarantine': ['engineer'],
  'keep-yard': keepers,

  'raise-ncr': writers,
  'dispose-ncr': ['engineer'],
  'answer-ncr': ['crew-lead', 'inspector'],
  'verify-ncr': ['inspector'],
  concede: ['witness'],
  'ask-action': testers,

  'run-test': testers,
  'plan-halves': testers,
  'start-unready-test': ['engineer'],
  'take-foreign-log': ['engineer'],
  'sign-test': ['witness', 'inspector'],

  'write-procedure': ['engineer'],
  'weigh-procedure': ['inspector', 'engineer'],
  'set-rule': ['engineer'],
  'keep-instruments': ['administrator'],

  'keep-people': ['administrator'],
  'set-project': ['administrator'],
  'plan-work': ['engineer', 'administrator'],
  /** what work hangs on: its record says so */
  withdraw: ['engineer'],
  /** a list of the setup: which one decides who of them keeps it */
  'keep-lists': ['engineer', 'administrator'],
  'see-plan': ['engineer', 'administrator', 'inspector'],
} as const satisfies Record<string, readonly Role[]>
export type Action = keyof typeof actions

export const rolesFor = (action: Action): readonly Role[] => actions[action]

/** Whether somebody with these roles may. */
export const may = (held: readonly Role[], action: Action): boolean =>
  rolesFor(action).some((role) => held.includes(role))

/** The crew that a member is bound to: null sees every crew, a crew lead without a crew sees none. */
export const NO_CREW = '00000000-0000-0000-0000-000000000000'
export function crewScope(memberships: readonly { role: Role; crew: string | null }[]): string | null {
  const lead = memberships.find((m) => m.role === 'crew-lead')
  if (!lead || memberships.some((m) => m.role === 'inspector' || m.role === 'engineer')) return null
  return lead.crew ?? NO_CREW
}

/** What a crew hears of through the feed: its own subjects, and what every crew works by. */
const forEveryCrew: ReadonlySet<string> = new Set(['procedure', 'project', 'instrument', 'lot'])
export const mayHear = (scope: string | null, subjectType: string, subjectCrew: string | null): boolean =>
  scope === null || forEveryCrew.has(subjectType) || (subjectCrew !== null && subjectCrew === scope)
