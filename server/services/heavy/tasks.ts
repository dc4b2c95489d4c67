import type { Table } from '#core/files/table'
import type { Procedure } from '#core/procedure/types'
import type { FileLook, LogInput, PackEvaluation } from './log'
import type { CertificateInput } from './certificate'
import type { NcrPaper } from './ncr-paper'
import type { NoticeInput } from './notice'
import type { PlanPaper } from './plan-paper'
import type { ShiftInput } from './shift-paper'
import type { SentFile } from './table-files'

/**
 * What is made or read away from the thread that answers people: by name, what goes in and what comes
 * out.
 */
export interface HeavyTasks {
  table: (file: SentFile) => Promise<Table>
  log: (input: LogInput) => Promise<PackEvaluation>
  look: (input: LogInput) => Promise<FileLook>
  procedure: (source: string) => Promise<Procedure>
  certificate: (input: CertificateInput) => Promise<Uint8Array>
  ncr: (paper: NcrPaper) => Promise<Uint8Array>
  shift: (input: ShiftInput) => Promise<Uint8Array>
  notice: (input: NoticeInput) => Promise<Uint8Array>
  plan: (paper: PlanPaper) => Promise<Uint8Array>
  planSheet: (paper: PlanPaper) => Promise<Uint8Array>
}

export type HeavyTask = keyof HeavyTasks
