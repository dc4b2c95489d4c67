import { showStretch, showMetres } from '#core/quantity/show'
import type { Found } from '../../server/services/find'
import type { SlicePage } from '../../server/services/slice'
import { get, put } from './kept'

/** What worksheets of the slice are called, by their addresses: found without opening each of them. */
type Index = Record<string, { label: string; detail: string }>
const place = (base: string) => `index ${base}`
const MOST = 16

/** Adds the worksheets of a page to what can be found. */
export async function indexPage(base: string, page: SlicePage): Promise<void> {
  const before = (await get<Index>(place(base))) ?? {}
  const stays = page.addresses && new Set(page.addresses)
  const index = Object.fromEntries(Object.entries(before).filter(([address]) => stays?.has(address) ?? true))
  for (const { path, sheet } of page.rows) {
    const { title, station, from, to } = sheet.subject as Record<string, string | number | undefined>
    const detail =
      station === undefined ? showStretch(Number(from), Number(to)) : showMetres(Number(station), 1)
    index[path] = { label: String(title), detail }
  }
  await put([{ address: place(base), value: index }])
}

/** Joints and reaches on this device by a part of their name. */
export async function findKept(base: string, text: string): Promise<Found[]> {
  const wanted = text.toLowerCase()
  const index = (await get<Index>(place(base))) ?? {}
  return Object.entries(index)
    .filter(([, { label }]) => label.toLowerCase().includes(wanted))
    .slice(0, MOST)
    .map(([address, { label, detail }]) => {
      const [kind, id] = address.split('/') as [string, string]
      return { kind: kind === 'reaches' ? 'reach' : 'joint', id, parent: null, label, detail }
    })
}
