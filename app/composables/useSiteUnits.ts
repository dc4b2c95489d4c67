import { withUnitOfFact } from '#core/procedure/facts'
import type { ProcedureFact } from '#core/procedure/types'
import { showEverythingIn, siteUnits, type SiteUnits } from '#core/quantity/site-units'

/** What a person reads figures in on this device, whatever the project's units are; null as the project. */
const KEPT = 'vet-line-units'

export function ownUnits(): SiteUnits | null {
  const kept = localStorage.getItem(KEPT)
  return siteUnits.find((u) => u === kept) ?? null
}

/** Asks the server to word what is only read as this person reads it. */
export function unitsHeader(): Record<string, string> {
  const own = typeof localStorage === 'undefined' ? null : ownUnits()
  return own === null ? {} : { 'x-vet-line-units': own }
}

/** Shows figures as this person reads them: before anything of the project is on the screen. */
export const useUnitsOf = (project: SiteUnits): void => showEverythingIn(ownUnits() ?? project)

/** Every figure on the screen is worded anew: the view is loaded once more. */
export function chooseUnits(units: SiteUnits | null): void {
  if (units === null) localStorage.removeItem(KEPT)
  else localStorage.setItem(KEPT, units)
  location.reload()
}

/** Facts as they are typed, each with the unit that stood beside its field; what is empty is left out. */
export const withUnits = (
  typed: Record<string, string | boolean>,
  facts: readonly Pick<ProcedureFact, 'key' | 'unit' | 'nominal'>[],
): Record<string, string | boolean> =>
  Object.fromEntries(
    Object.entries(typed)
      .filter(([, v]) => v !== '')
      .map(([key, v]) => {
        const fact = facts.find((f) => f.key === key)
        return [key, typeof v === 'string' && fact ? withUnitOfFact(v, fact) : v]
      }),
  )
