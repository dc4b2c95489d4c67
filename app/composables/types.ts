import type { Entry } from '#core/record/entry'
import type { ProcedureRow } from '../../server/db/procedures'
import type { Overview } from '~/stores/session'

export type Instrument = Overview['instruments'][number]

/** A revision in the library, and one opened with its document and record. */
export type ProcedureListed = Omit<ProcedureRow, 'source'> & { joints?: number }
export type ProcedureOpened = ProcedureRow & { record: Entry[] }
