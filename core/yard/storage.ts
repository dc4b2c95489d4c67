/** What lies at a place of the yard; it decides what a round looks at. */
export type StoredKind = 'plastic pipe' | 'rigid pipe' | 'fittings' | 'gaskets' | 'compounds'

export interface StorageQuestion {
  key: string
  question: string
  why: string
  kinds: readonly StoredKind[]
}

const all: readonly StoredKind[] = ['plastic pipe', 'rigid pipe', 'fittings', 'gaskets', 'compounds']

/** What is looked at on a round through the yard. A "no" is a finding. */
export const storageQuestions: readonly StorageQuestion[] = [
  {
    key: 'sun',
    question: 'Out of the sun?',
    why: 'Sun hardens rubber and makes plastic brittle and bent.',
    kinds: ['plastic pipe', 'fittings', 'gaskets', 'compounds'],
  },
  {
    key: 'bags',
    question: 'Fittings in their closed bags?',
    why: 'Dust and moisture on the fusion or sealing face cannot be seen later.',
    kinds: ['fittings'],
  },
  {
    key: 'caps',
    question: 'Caps on the ends?',
    why: 'Soil, water and animals stay in the line.',
    kinds: ['plastic pipe', 'rigid pipe'],
  },
  {
    key: 'level',
    question: 'Level, no stones, on its timbers?',
    why: 'A stone under a pipe is a dent.',
    kinds: ['plastic pipe', 'rigid pipe'],
  },
  {
    key: 'chocks',
    question: 'Chocked, and no higher than planned?',
    why: 'A stack that rolls kills.',
    kinds: ['plastic pipe', 'rigid pipe'],
  },
  {
    key: 'relaxed',
    question: 'Seals flat, not hung or bent, away from oil and motors?',
    why: 'A seal set in a bend leaks there; ozone cracks it.',
    kinds: ['gaskets'],
  },
  {
    key: 'closed',
    question: 'Tins closed, opening dates written on them?',
    why: 'Cement that has thickened does not bite.',
    kinds: ['compounds'],
  },
  {
    key: 'marked',
    question: 'Quarantined items apart and marked?',
    why: 'What lies with the good ones is built in.',
    kinds: all,
  },
]

export const questionsFor = (kind: StoredKind): StorageQuestion[] =>
  storageQuestions.filter((q) => q.kinds.includes(kind))

export interface StorageRange {
  /** °C; null where it does not matter */
  min: number | null
  max: number | null
}

export interface StorageRound {
  answers: Record<string, 'yes' | 'no'>
  /** °C, as read at the place */
  temperature: number | null
  remark: string | null
}

export interface StorageFinding {
  key: string
  sentence: string
}

/**
 * What a round found. Answers to questions of other kinds count for nothing;
 * a question left open is a finding, for it was not looked at.
 */
export function judgeRound(kind: StoredKind, range: StorageRange, round: StorageRound): StorageFinding[] {
  const findings: StorageFinding[] = []
  for (const q of questionsFor(kind)) {
    const answer = round.answers[q.key]
    if (answer === 'no')
      findings.push({ key: q.key, sentence: `${q.question.replace(/\?$/, '')}: no. ${q.why}` })
    else if (answer !== 'yes')
      findings.push({ key: q.key, sentence: `${q.question.replace(/\?$/, '')}: not looked at.` })
  }
  if (range.min === null && range.max === null) return findings
  const t = round.temperature
  if (t === null) findings.push({ key: 'temperature', sentence: 'Temperature: not read.' })
  else if (range.min !== null && t < range.min)
    findings.push({
      key: 'temperature',
      sentence: `${t} °C is below the ${range.min} °C that what lies here stands.`,
    })
  else if (range.max !== null && t > range.max)
    findings.push({
      key: 'temperature',
      sentence: `${t} °C is over the ${range.max} °C that what lies here stands.`,
    })
  return findings
}
