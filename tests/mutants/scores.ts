/** One fault that was put into the code, and what came of it. */
export interface Mutant {
  /** from the project's root */
  file: string
  /** lines and columns from 1 on */
  location: { start: Place; end: Place }
  /** Killed, Timeout, Survived, NoCoverage, and others that say nothing of the tests */
  status: string
  change: string
}

interface Place {
  line: number
  column: number
}

/** Of a hundred faults so many are to be noticed: more where somebody would be hurt. */
const MOST = 85
const USUAL = 75
const WHERE_IT_HURTS = ['judgement', 'record', 'pressure', 'embedment', 'procedure']

const noticed = new Set(['Killed', 'Timeout', 'RuntimeError'])
const missed = new Set(['Survived', 'NoCoverage'])

/** Where the faults stand that nobody saw, each once, as the range of a file whose columns count from 0. */
export const missedBy = (mutants: readonly Mutant[]): string[] => [
  ...new Set(
    mutants
      .filter((m) => missed.has(m.status))
      .map(({ file, location: { start, end } }) => {
        const from = `${start.line}:${start.column - 1}`
        return `${file}:${from}-${end.line}:${end.column - 1}`
      }),
  ),
]

/** Two looks at the same faults: noticed is what either noticed. */
export function together(near: readonly Mutant[], far: readonly Mutant[]): Mutant[] {
  const nameOf = ({ file, location, change }: Mutant) => JSON.stringify([file, location, change])
  const later = new Map(far.filter((m) => noticed.has(m.status)).map((m) => [nameOf(m), m]))
  return near.map((m) => (missed.has(m.status) ? (later.get(nameOf(m)) ?? m) : m))
}

/** The score of each folder of the core, and every fault that nobody saw. */
export function scores(mutants: readonly Mutant[]): { survivors: Mutant[]; table: string; reached: boolean } {
  const counted = mutants.filter((m) => noticed.has(m.status) || missed.has(m.status))
  const folderOf = (m: Mutant) => m.file.split('/')[1]!
  const rows = [...new Set(counted.map(folderOf))].sort().map((folder) => {
    const own = counted.filter((m) => folderOf(m) === folder)
    const killed = own.filter((m) => noticed.has(m.status)).length
    const goal = WHERE_IT_HURTS.includes(folder) ? MOST : USUAL
    return { folder, killed, of: own.length, score: (100 * killed) / own.length, goal }
  })
  return {
    survivors: counted.filter((m) => missed.has(m.status)),
    table: rows
      .map(
        ({ folder, killed, of, score, goal }) =>
          `core/${folder}`.padEnd(20) +
          `${killed} of ${of}`.padStart(14) +
          `${score.toFixed(1)} %`.padStart(9) +
          `   ${goal} asked`,
      )
      .join('\n'),
    reached: rows.every((r) => r.score >= r.goal),
  }
}
