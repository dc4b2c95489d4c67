import { judgeRound, questionsFor, type StorageRound, type StoredKind } from '../core/yard/storage'
import { putItems, type NewItem } from '../server/db/items'
import { addLots, type LotFacts } from '../server/db/lots'
import { insertPlace, saveRound } from '../server/db/yard'
import { DAY, write, type Ground } from './ground'
import { catalogue } from './goods'
import { JOINTS, PIPE } from './scheme'
import { layNote } from './seed-note'

/** What has been delivered, as joints take from it. */
export interface Stock {
  pipes: NewItem[]
  fittings: NewItem[]
}

const SUPPLIER = 'Harrow Bay Pipe Stores'
const SEALS = 'Skerry Seal & Cement'
const LOTS = ['L2406', 'L2411', 'L2417']
const day = (at: number) => new Date(at).toISOString().slice(0, 10)

interface OrderBrief {
  number: string
  supplier: string
  lines: [item: string, quantity: number, lots?: string[]][]
}
const orders: OrderBrief[] = [
  {
    number: 'PO-118',
    supplier: SUPPLIER,
    lines: [
      ['PE-315-11', JOINTS + 4],
      ['EFC-315', JOINTS + 4],
    ],
  },
  {
    number: 'PO-126',
    supplier: SEALS,
    lines: [
      ['CEM-CPVC', 24],
      ['PRI-PVC', 12],
      ['GSK-600', 40],
      ['SEA-BUT', 30],
      ['LUB-W', 16],
    ],
  },
  {
    number: 'PO-131',
    supplier: SUPPLIER,
    lines: [
      ['PE-63-11', 8],
      ['EFC-63', 6, ['F7781']],
    ],
  },
]

async function layOrders(g: Ground): Promise<Record<string, string>> {
  const ids: Record<string, string> = {}
  for (const o of orders) {
    ids[o.number] = g.random.id(g.now - 39 * DAY)
    await g
      .db('orders')
      .insert({ id: ids[o.number], project: g.project.id, number: o.number, supplier: o.supplier })
    const classOf = (item: string) => catalogue.find((c) => c.item === item)!.pressureClass
    await write(g, 'order', ids[o.number]!, 'petra', [
      {
        kind: 'receipt',
        payload: {
          number: o.number,
          supplier: o.supplier,
          lines: o.lines.map(([item, quantity, lots]) => ({ item, quantity, lots: lots ?? [] })),
        },
        at: g.now - 39 * DAY,
      },
    ])
    await g.db('order_lines').insert(
      o.lines.map(([item, quantity, lots]) => ({
        id: g.random.id(g.now),
        order_id: ids[o.number],
        item,
        pressure_class: classOf(item),
        quantity,
        lots: JSON.stringify(lots ?? []),
      })),
    )
  }
  return ids
}

interface PlaceBrief {
  name: string
  kind: StoredKind
  min: number | null
  max: number | null
  everyDays: number
  roundDaysAgo: number
  /** questions answered no */
  no: string[]
  temperature: number | null
}
const placeBriefs: Record<'pipe' | 'overflow' | 'fittings' | 'seals' | 'cement', PlaceBrief> = {
  pipe: {
    name: 'Stack A, km 0',
    kind: 'plastic pipe',
    min: null,
    max: null,
    everyDays: 7,
    roundDaysAgo: 2,
    no: [],
    temperature: null,
  },
  overflow: {
    name: 'Stack B, km 1.8',
    kind: 'plastic pipe',
    min: null,
    max: null,
    everyDays: 7,
    roundDaysAgo: 9,
    no: ['caps'],
    temperature: null,
  },
  fittings: {
    name: 'Fittings container',
    kind: 'fittings',
    min: null,
    max: null,
    everyDays: 7,
    roundDaysAgo: 3,
    no: [],
    temperature: null,
  },
  seals: {
    name: 'Seal store',
    kind: 'gaskets',
    min: 0,
    max: 25,
    everyDays: 7,
    roundDaysAgo: 3,
    no: ['relaxed'],
    temperature: 17,
  },
  cement: {
    name: 'Cement cabinet',
    kind: 'compounds',
    min: 5,
    max: 25,
    everyDays: 3,
    roundDaysAgo: 1,
    no: [],
    temperature: 14,
  },
}

async function layYard(g: Ground): Promise<Record<keyof typeof placeBriefs, string>> {
  const ids = {} as Record<keyof typeof placeBriefs, string>
  for (const [key, p] of Object.entries(placeBriefs) as [keyof typeof placeBriefs, PlaceBrief][]) {
    const id = (ids[key] = g.random.id(g.now - 36 * DAY))
    const place = { id, name: p.name, kind: p.kind, min: p.min, max: p.max, everyDays: p.everyDays }
    await insertPlace(g.db, g.project.id, place)
    const entries = await write(g, 'place', id, 'ines', [
      { kind: 'register', payload: place, at: g.now - 36 * DAY },
    ])
    const round: StorageRound = {
      answers: Object.fromEntries(
        questionsFor(p.kind).map((q) => [q.key, p.no.includes(q.key) ? 'no' : 'yes']),
      ),
      temperature: p.temperature,
      remark: null,
    }
    const at = g.now - p.roundDaysAgo * DAY
    await write(g, 'place', id, 'ines', [{ kind: 'round', payload: { ...round }, at }], entries)
    await saveRound(g.db, id, new Date(at), judgeRound(p.kind, p, round))
  }
  return ids
}

/** Lots of consumables, with dates from today: most are good, one ends soon, one has ended. */
const lotsOf = (g: Ground): (Omit<LotFacts, 'id'> & { item: string; pieces: number })[] => {
  const at = (days: number) => day(g.now + days * DAY)
  return [
    { lot: 'CE-8', item: 'CEM-CPVC', made: at(-260), expires: at(267), opened: null, pieces: 12 },
    { lot: 'CE-3', item: 'CEM-CPVC', made: at(-700), expires: at(-37), opened: null, pieces: 6 },
    { lot: 'CE-9', item: 'CEM-CPVC', made: at(-700), expires: at(12), opened: null, pieces: 6 },
    { lot: 'PR-5', item: 'PRI-PVC', made: at(-200), expires: at(267), opened: null, pieces: 12 },
    { lot: 'GK-41', item: 'GSK-600', made: at(-120), expires: null, opened: null, pieces: 40 },
    { lot: 'SL-3', item: 'SEA-BUT', made: at(-128), expires: null, opened: null, pieces: 30 },
    { lot: 'LW-12', item: 'LUB-W', made: at(-90), expires: null, opened: null, pieces: 16 },
  ]
}

/**
 * Five signed deliveries, one that came this morning, and an order for the branch still to be delivered;
 * all of it lies in the yard.
 */
export async function layGoods(g: Ground): Promise<Stock> {
  const { db, random, now } = g
  const orderIds = await layOrders(g)
  const places = await layYard(g)
  const stock: Stock = { pipes: [], fittings: [] }
  const notes: [number: string, daysAgo: number, pipes: number, fittings: number][] = [
    ['DN-2201', 34, 90, 100],
    ['DN-2203', 26, 90, 100],
    ['DN-2204', 17, 70, 80],
    ['DN-2205', 0.12, 24, 0],
  ]
  for (const [number, daysAgo, pipeCount, fittingCount] of notes) {
    const at = now - daysAgo * DAY
    const delivery = random.id(at)
    const make = (kind: 'pipe' | 'fitting', item: string, count: number, before: number): NewItem[] =>
      Array.from({ length: count }, (_v, i) => ({
        id: random.id(at),
        project: g.project.id,
        delivery,
        item,
        kind,
        serial: `${kind === 'pipe' ? 'P' : 'C'}${String(before + i + 1).padStart(4, '0')}`,
        lot: kind === 'pipe' ? LOTS[i % 3]! : 'F7702',
        length: kind === 'pipe' ? PIPE : null,
        conforms: true,
        state: daysAgo < 1 ? 'received' : 'accepted',
        remark: null,
      }))
    const items = [
      ...make('pipe', 'PE-315-11', pipeCount, stock.pipes.length),
      ...make('fitting', 'EFC-315', fittingCount, stock.fittings.length),
    ]
    // One scratched length of the first delivery lies in quarantine.
    const hurt = number === 'DN-2201' ? items[40]! : undefined
    if (hurt) Object.assign(hurt, { state: 'quarantined', remark: 'Scratch along the axis, 11 % of wall' })
    stock.pipes.push(...items.filter((i) => i.kind === 'pipe'))
    stock.fittings.push(...items.filter((i) => i.kind === 'fitting'))
    await addLots(
      db,
      g.project.id,
      [...new Set(items.map((i) => i.lot))].map((lot) => ({
        id: random.id(at),
        lot,
        item: items.find((i) => i.lot === lot)!.item,
        made: day(at - 40 * DAY),
        expires: null,
        opened: null,
      })),
    )
    await layNote(g, orderIds, {
      number,
      order: 'PO-118',
      daysAgo,
      items,
      places: [daysAgo > 30 ? places.pipe : places.overflow, places.fittings],
      hurt: hurt && {
        item: hurt,
        damage: { clock: 2, fromEnd: 3.4, length: 0.6, depth: 0.0032 },
        remark: hurt.remark!,
      },
      sampled: daysAgo > 1 ? 'PE-315-11' : undefined,
    })
  }
  await layConsumables(g, orderIds, places)
  return { pipes: stock.pipes.filter((p) => p.state === 'accepted'), fittings: stock.fittings }
}

async function layConsumables(
  g: Ground,
  orderIds: Record<string, string>,
  places: Record<keyof typeof placeBriefs, string>,
) {
  const at = g.now - 22 * DAY
  const lots = lotsOf(g)
  await addLots(
    g.db,
    g.project.id,
    lots.map(({ pieces: _p, ...l }) => ({ ...l, id: g.random.id(at) })),
  )
  const delivery = g.random.id(at)
  const items = lots.flatMap((l) =>
    Array.from({ length: l.pieces }, (_v, i): NewItem => ({
      id: g.random.id(at),
      project: g.project.id,
      delivery,
      item: l.item,
      kind: 'consumable',
      serial: `${l.lot}-${String(i + 1).padStart(3, '0')}`,
      lot: l.lot,
      length: null,
      conforms: true,
      state: 'accepted',
      remark: null,
    })),
  )
  await layNote(g, orderIds, { number: 'DN-2202', order: 'PO-126', daysAgo: 22, items, places: [] })
  const at2 = (kinds: string[]) => items.filter((i) => kinds.includes(i.item)).map((i) => i.id)
  await putItems(g.db, at2(['CEM-CPVC', 'PRI-PVC', 'LUB-W']), places.cement)
  await putItems(g.db, at2(['GSK-600', 'SEA-BUT']), places.seals)
}
