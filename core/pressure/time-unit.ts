/** The unit of time in which a test of such a length, in seconds, is read. */
export function timeUnit(seconds: number): { name: string; of: number } {
  if (seconds > 2 * 3600) return { name: 'hours', of: 3600 }
  return seconds > 300 ? { name: 'minutes', of: 60 } : { name: 'seconds', of: 1 }
}
