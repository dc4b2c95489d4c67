import type { Entry } from '../record/entry'
import { standing } from '../judgement/standing'

/** What a joint was made with; each is found again from either side. */
export const useKinds = ['item', 'lot', 'delivery', 'instrument', 'person', 'crew', 'procedure'] as const
export type UseKind = (typeof useKinds)[number]

export interface Use {
  kind: UseKind
  value: string
}

/** What a joint's own row says of it, and its built-in items. */
export interface JointMakeup {
  crew: string
  procedure: string | null
  items: readonly { id: string; lot: string; delivery: string }[]
}

/**
 * Everything that a joint was made with: built-in items with their lots and
 * deliveries, lots recorded at its steps, instruments and people of its
 * readings, crew and procedure revision. Struck entries count for nothing.
 * Each use stands once, in a fixed order.
 */
export function usesOf(joint: JointMakeup, entries: readonly Entry[]): Use[] {
  const found = new Map<string, Use>()
  const add = (kind: UseKind, value: unknown) => {
    if (typeof value === 'string' && value !== '') found.set(`${kind} ${value}`, { kind, value })
  }
  for (const item of joint.items) {
    add('item', item.id)
    add('lot', item.lot)
    add('delivery', item.delivery)
  }
  if (joint.procedure) {
    add('crew', joint.crew)
    add('procedure', joint.procedure)
  }
  for (const e of standing(entries)) {
    if (e.kind === 'lot') add('lot', e.payload.lot)
    if (e.instrument) add('instrument', e.instrument)
    if (e.role === 'crew-lead') add('person', e.person)
  }
  return [...found.values()].sort(
    (a, b) =>
      useKinds.indexOf(a.kind) - useKinds.indexOf(b.kind) ||
      (a.value < b.value ? -1 : a.value > b.value ? 1 : 0),
  )
}
