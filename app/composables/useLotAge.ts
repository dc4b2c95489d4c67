import type { listLots } from '../../server/services/lots'
import { shelfWords } from '~/words'

export type LotRow = Awaited<ReturnType<typeof listLots>>['lots'][number]
type Aged = Pick<LotRow, 'shelf' | 'quarantinedAt' | 'end'>

const glyphs = {
  expired: 'rejected',
  soon: 'too-close',
  good: 'accepted',
  unlimited: 'not-applicable',
} as const

/** How the age of a lot is shown: by its sign and in words. */
export function useLotAge() {
  const times = useTimes()
  return {
    glyph: (l: Aged) => (l.quarantinedAt ? 'rejected' : glyphs[l.shelf]),
    word(l: Aged): string {
      if (l.quarantinedAt) return 'Quarantined'
      return l.end ? `${shelfWords[l.shelf]} ${times.day(l.end.at)}` : shelfWords.unlimited
    },
  }
}
