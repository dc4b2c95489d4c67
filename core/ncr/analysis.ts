/** One report, as it is counted. */
export interface Counted {
  id: string
  number: string
  step: string
  crew: string
  system: string
  /** null while nobody has said it */
  cause: string | null
  /** first day of its week, YYYY-MM-DD */
  week: string
  closed: boolean
}

export const countedBy = ['step', 'crew', 'system', 'cause'] as const
export type CountedBy = (typeof countedBy)[number]

export interface Bar {
  key: string
  count: number
  /** share of all up to and with this one */
  reached: number
  reports: Pick<Counted, 'id' | 'number'>[]
}

/** How often each comes, the most frequent first: a few of them usually make most of it. */
export function pareto(rows: readonly Counted[], by: CountedBy): Bar[] {
  const found = new Map<string, Counted[]>()
  for (const row of rows) {
    const key = row[by] ?? ''
    found.set(key, [...(found.get(key) ?? []), row])
  }
  let reached = 0
  return [...found]
    .sort(([a, x], [b, y]) => y.length - x.length || a.localeCompare(b))
    .map(([key, list]) => {
      reached += list.length
      return {
        ...{ key, count: list.length, reached: reached / rows.length },
        reports: list.map(({ id, number }) => ({ id, number })),
      }
    })
}

/** How many in each week, weeks without any among them. */
export function weekly(rows: readonly Counted[]): { week: string; count: number }[] {
  if (rows.length === 0) return []
  const counts = new Map<string, number>()
  for (const { week } of rows) counts.set(week, (counts.get(week) ?? 0) + 1)
  const weeks = [...counts.keys()].sort()
  const out: { week: string; count: number }[] = []
  const last = Date.parse(`${weeks.at(-1)!}T00:00:00Z`)
  for (let at = Date.parse(`${weeks[0]!}T00:00:00Z`); at <= last; at += 7 * 86_400_000) {
    const week = new Date(at).toISOString().slice(0, 10)
    out.push({ week, count: counts.get(week) ?? 0 })
  }
  return out
}
