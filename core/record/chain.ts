/**
 * The hash chain of one subject. Each entry carries the hash of the one before,
 * so that nothing can be altered, dropped or slipped in without a trace.
 */
export const CHAIN_START = '0'.repeat(64)

/** The fields that are hashed, exactly as stored. `payload` is the stored text, never a parsed value. */
export interface ChainedEntry {
  id: string
  project: string
  subjectType: string
  subject: string
  seq: number
  kind: string
  step: string | null
  payload: string
  instrument: string | null
  person: string
  role: string
  crew: string | null
  device: string | null
  recordedAt: string
  receivedAt: string
  prev: string
}

/** The text that is hashed: a JSON array of the fields in the order above, so nothing depends on key order. */
export const canonicalEntry = (e: ChainedEntry): string =>
  JSON.stringify([e.id, e.project, e.subjectType, e.subject, e.seq, e.kind, e.step, e.payload, e.instrument, e.person, e.role, e.crew, e.device, e.recordedAt, e.receivedAt, e.prev])

export interface ChainFault {
  subject: string
  subjectType: string
  seq: number
  entry: string
  fault: string
}

/**
 * Walks one subject's entries in order of `seq`.
 *
 * @param sha256 digest of a text as lower-case hex (given, so that this runs anywhere)
 * @param head the sequence and hash that the record says are the last
 * @returns the first fault, or null when the chain is whole
 */
export function findChainFault(entries: (ChainedEntry & { hash: string })[], sha256: (text: string) => string, head: { seq: number; hash: string } | null): ChainFault | null {
  let prev = CHAIN_START
  let seq = 0
  for (const entry of entries) {
    const at = (fault: string): ChainFault => ({ subject: entry.subject, subjectType: entry.subjectType, seq: entry.seq, entry: entry.id, fault })
    if (entry.seq !== seq + 1) return at(`entry ${seq + 1} is missing before it`)
    if (entry.prev !== prev) return at('it does not follow the entry before it')
    if (sha256(canonicalEntry(entry)) !== entry.hash) return at('its content does not match its hash')
    prev = entry.hash
    seq = entry.seq
  }
  if (head && (head.seq !== seq || head.hash !== prev)) {
    const last = entries.at(-1)
    return { subject: last?.subject ?? '', subjectType: last?.subjectType ?? '', seq, entry: last?.id ?? '', fault: `the record ends at entry ${seq}, but ${head.seq} were written` }
  }
  return null
}
