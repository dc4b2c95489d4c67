import type { H3Event } from 'h3'
import type { EntryKind } from '#core/record/entry'
import type { NewEntry } from '../services/record'
import { deviceOf, stampTime } from './session'

interface SentEntry {
  id: string
  kind: string
  step?: string | null
  payload: object
  instrument?: string | null
  number?: number | null
  stamp?: string | null
  moved?: boolean
  recordedAt: string
}

/** Entries of a body as the use cases take them: the device is the one that signs for its time. */
export function sentEntries(event: H3Event, person: string, entries: readonly SentEntry[]): NewEntry[] {
  const device = deviceOf(event)
  return entries.map((e) => ({
    id: e.id,
    kind: e.kind as EntryKind,
    step: e.step ?? null,
    payload: e.payload as Record<string, unknown>,
    instrument: e.instrument ?? null,
    device,
    number: device === null ? null : (e.number ?? null),
    moved: e.moved === true,
    stampAt: stampTime(event, person, e.stamp ?? null),
    recordedAt: new Date(e.recordedAt),
  }))
}
