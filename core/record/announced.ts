import type { EntryKind } from './entry'

/** What others are told of at once, and in which words. */
export const announced = {
  request: 'Release requested',
  release: 'Released',
  refusal: 'Release refused',
  waiver: 'Waived',
  invitation: 'Witness invited',
  reply: 'Witness answered',
  attendance: 'Witness point over',
  query: 'Queried',
  response: 'Answered',
  raise: 'Nonconformance raised',
  disposition: 'Disposition given',
  verification: 'Rework verified',
  evaluation: 'Test evaluated',
} as const satisfies Partial<Record<EntryKind, string>>

export type AnnouncedKind = keyof typeof announced

/** One thing that happened, as it is told to another program. */
export interface Announcement {
  /** of the entry: what is told twice is one */
  id: string
  kind: AnnouncedKind
  says: string
  subject: { type: string; id: string; name: string }
  step: string | null
  /** ISO, UTC */
  at: string
}
