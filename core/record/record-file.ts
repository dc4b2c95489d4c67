import { Problem } from '../problem'
import { findChainFault, type ChainedEntry } from './chain'

/** The record of one thing as a file: every entry as it is hashed, so that anybody can check its digest. */
export interface RecordFile {
  record: string
  entries: (ChainedEntry & { hash: string })[]
}

export interface CheckedRecord {
  record: string
  entries: number
  /** the digest that a certificate shows */
  digest: string
  /** who signed, bound to which digest, and whether the record had it then */
  signatures: { name: string; at: string; digest: string; holds: boolean }[]
  /** digests of files that the record names, such as the log of a test */
  files: string[]
  /** what is wrong, as a sentence; null where the record is whole */
  fault: string | null
}

const texts = ['id', 'project', 'subjectType', 'subject', 'kind', 'payload', 'person', 'role'] as const
const more = ['recordedAt', 'receivedAt', 'prev', 'hash'] as const

/** @throws Problem naming what the file lacks */
function readEntries(raw: unknown): RecordFile {
  const { record, entries } = (raw ?? {}) as { record?: unknown; entries?: unknown }
  if (typeof record !== 'string' || !Array.isArray(entries) || entries.length === 0)
    throw new Problem('bad-record', 'This is no record: it needs "record" and "entries".', 'record')
  entries.forEach((entry: unknown, i) => {
    const e = (entry ?? {}) as Record<string, unknown>
    for (const key of [...texts, ...more])
      if (typeof e[key] !== 'string')
        throw new Problem('bad-record', `Entry ${i + 1} has no "${key}".`, `entries.${i}.${key}`)
  })
  return { record, entries: entries as RecordFile['entries'] }
}

const payloadOf = (e: ChainedEntry): Record<string, unknown> => {
  try {
    return JSON.parse(e.payload) as Record<string, unknown>
  } catch {
    return {}
  }
}

/**
 * Checks the record of one thing from its file alone: its chain, what its signatures are bound to, and the
 * digest in which it ends.
 *
 * @param sha256 digest of a text as lower-case hex (given, so that this runs anywhere)
 * @throws Problem `bad-record` for a file that is none
 */
export function checkRecordFile(raw: unknown, sha256: (text: string) => string): CheckedRecord {
  const { record, entries } = readEntries(raw)
  const first = entries[0]!
  const foreign = entries.find((e) => e.subject !== first.subject || e.project !== first.project)
  const found = findChainFault(entries, sha256, null)
  const before = new Set<string>()
  const signatures: CheckedRecord['signatures'] = []
  const files: string[] = []
  for (const e of entries) {
    const { name, digest, sha256: file } = payloadOf(e)
    if (e.kind === 'signature')
      signatures.push({
        ...{ name: String(name), at: e.recordedAt, digest: String(digest) },
        holds: before.has(String(digest)),
      })
    if (typeof file === 'string') files.push(file)
    before.add(e.hash)
  }
  const unbound = signatures.find((s) => !s.holds)
  const fault = foreign
    ? `Entry ${foreign.seq} is of something else.`
    : found
      ? `Entry ${found.seq}: ${found.fault}.`
      : unbound
        ? `The signature of ${unbound.name} is bound to a digest that this record never had.`
        : null
  return { record, entries: entries.length, digest: entries.at(-1)!.hash, signatures, files, fault }
}
