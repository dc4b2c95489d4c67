import { describe, expect, it } from 'vitest'
import type { LotFacts } from '../../../core/checks/verdict'
import { lotWaiver } from '../../../core/judgement/lot-waiver'
import { entry } from '../support'

/** Who lets a lot through past its date, and which lot that was. */
const used = entry('paste', 'lot', { lot: 'P 1' }, 10)
const waiver = (lot: unknown) => entry('paste', 'waiver', { lot, reason: 'Tested on site.' }, 11)
const lots = (quarantinedAt: number | null): Record<string, LotFacts> => ({
  'P 1': { made: null, expires: null, opened: null, quarantinedAt, reason: null } as unknown as LotFacts,
})

describe('a waiver of a lot', () => {
  it('is the one that names it, however it is written', () => {
    const named = waiver(' p 1 ')
    expect(lotWaiver(used, [waiver('P 2'), waiver(undefined), named], {})).toBe(named)
  })
  it('is none where another lot, none at all or something else is named', () => {
    expect(lotWaiver(used, [], {})).toBeNull()
    expect(lotWaiver(used, [waiver('P 2'), waiver(undefined)], {})).toBeNull()
    expect(lotWaiver(used, [entry('paste', 'remark', { lot: 'P 1', text: 'x' }, 11)], {})).toBeNull()
  })
  it('lets nobody through with a lot in quarantine, from that moment on', () => {
    const named = waiver('P 1')
    expect(lotWaiver(used, [named], lots(null))).toBe(named)
    expect(lotWaiver(used, [named], lots(used.recordedAt + 1))).toBe(named)
    expect(lotWaiver(used, [named], lots(used.recordedAt))).toBeNull()
    expect(lotWaiver(used, [named], lots(used.recordedAt - 1))).toBeNull()
  })
})
