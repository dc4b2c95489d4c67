/** A logger is often started before the test is, and its clock is seldom right to the minute. */
const BEFORE = 30 * 60_000
const AHEAD = 10 * 60_000

/**
 * Whether a log can belong to a run: it lies between the start of the test and now.
 *
 * @param log ms of its first and last sample
 * @param begun ms when the test was started
 * @returns null when it can, else a sentence on what does not fit
 */
export function checkLogTime(
  log: { startedAt: number; endedAt: number },
  begun: number,
  now: number,
): string | null {
  const minute = (at: number) => new Date(at).toISOString().slice(0, 16).replace('T', ' ')
  if (log.startedAt < begun - BEFORE)
    return `The log begins on ${minute(log.startedAt)} UTC, before this test was started (${minute(begun)} UTC): it is of another run.`
  if (log.endedAt > now + AHEAD)
    return `The log ends on ${minute(log.endedAt)} UTC, which is still to come: the clock of the logger is wrong.`
  return null
}
