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
  /** the device's running number and the server's time in its stamp; null for what the server itself wrote */
  deviceNumber: number | null
  stampAt: string | null
  /** why its time proves nothing; null for an entry in time */
  late: string | null
  recordedAt: string
  receivedAt: string
  prev: string
}

/**
 * The text that is hashed: a JSON array of fields in a fixed order, so nothing depends on key order.
 * What a device says of time follows at the end where there is any: entries from before it was kept hash as they did.
 */
export function canonicalEntry(e: ChainedEntry): string {
  const fields = [
    ...[e.id, e.project, e.subjectType, e.subject, e.seq, e.kind, e.step, e.payload],
    ...[e.instrument, e.person, e.role, e.crew, e.device, e.recordedAt, e.receivedAt, e.prev],
  ]
  if (e.deviceNumber !== null || e.stampAt !== null || e.late !== null)
    fields.push(e.deviceNumber, e.stampAt, e.late)
  return JSON.stringify(fields)
}

/** What the head of a chain says: whose it is, and where it ends. */
export interface ChainIdentity {
  project: string
  subjectType: string
  seq: number
  hash: string
}

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
 * @param head what the record says the chain is, and its last sequence and hash
 * @returns the first fault, or null when the chain is whole
 */
export function findChainFault(
  entries: (ChainedEntry & { hash: string })[],
  sha256: (text: string) => string,
  head: ChainIdentity | null,
): ChainFault | null {
  let prev = CHAIN_START
  let seq = 0
  for (const entry of entries) {
    const at = (fault: string): ChainFault => ({
      subject: entry.subject,
      subjectType: entry.subjectType,
      seq: entry.seq,
      entry: entry.id,
      fault,
    })
    if (head && (entry.project !== head.project || entry.subjectType !== head.subjectType))
      return at('it is of another kind or project than its chain')
    if (entry.seq !== seq + 1) return at(`entry ${seq + 1} is missing before it`)
    if (entry.prev !== prev) return at('it does not follow the entry before it')
    if (sha256(canonicalEntry(entry)) !== entry.hash) return at('its content does not match its hash')
    prev = entry.hash
    seq = entry.seq
  }
  if (head && (head.seq !== seq || head.hash !== prev)) {
    const last = entries.at(-1)
    return {
      subject: last?.subject ?? '',
      subjectType: last?.subjectType ?? '',
      seq,
      entry: last?.id ?? '',
      fault: `the record ends at entry ${seq}, but ${head.seq} were written`,
    }
  }
  return null
}
