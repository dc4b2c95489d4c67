import { mkdirSync, writeFileSync } from 'node:fs'
import Papa from 'papaparse'
import writeSpreadsheet from 'write-excel-file/node'
import { makeLog } from './pressure-log'

/** Writes the sample files that ship: delivery notes and orders good and bad, logs tight and leaking. */
const folder = process.argv[2] ?? 'samples'
mkdirSync(folder, { recursive: true })
type Row = Record<string, string>
const pipe = (n: number, more: Row = {}): Row => ({
  note: 'DN-2207',
  item: 'PE-63-11',
  class: 'SDR 11',
  lot: 'L2431',
  serial: `B${String(n).padStart(3, '0')}`,
  quantity: '1',
  length: '12 m',
  ...more,
})
const coupler = (n: number, more: Row = {}): Row => ({
  note: 'DN-2207',
  item: 'EFC-63',
  class: 'SDR 11',
  lot: 'F7781',
  serial: `K${String(n).padStart(3, '0')}`,
  quantity: '1',
  length: '',
  ...more,
})
const rows = [
  ...Array.from({ length: 8 }, (_v, i) => pipe(i + 1)),
  ...Array.from({ length: 6 }, (_v, i) => coupler(i + 1)),
]
const named = (note: string, change: (row: Row, i: number) => Row = (r) => r) =>
  rows.map((r, i) => change({ ...r, note, serial: `${note.slice(-2)}-${r.serial}` }, i))
const HOSTILE = ['=1+1', '+1', '-1', '@now', '=cmd|x', '\tL2431']
const LARGE = 20_000

const files: Record<string, Row[]> = {
  'delivery-good.csv': rows,
  'delivery-short.csv': rows.slice(0, 6).map((r) => ({ ...r, note: 'DN-2208' })),
  'delivery-wrong-class.csv': rows.map((r, i) => ({
    ...r,
    note: 'DN-2209',
    ...(i === 2 ? { class: 'SDR 17' } : {}),
  })),
  'delivery-bad-rows.csv': rows.map((r, i) => ({
    ...r,
    note: 'DN-2210',
    serial: i === 5 ? 'X-B001' : `X-${r.serial}`,
    ...(i === 3 ? { quantity: 'one' } : {}),
    ...(i === 7 ? { lot: '=1+1' } : {}),
  })),
  'delivery-duplicate-serial.csv': named('DN-2211', (r, i) => (i === 4 ? { ...r, serial: '11-B002' } : r)),
  'delivery-hostile.csv': named('DN-2212', (r, i) =>
    i < HOSTILE.length ? { ...r, [i % 2 ? 'serial' : 'lot']: HOSTILE[i]! } : r,
  ),
  'delivery-other-headings.csv': named('DN-2213').map((r) => ({
    Lieferschein: r.note!,
    Artikel: r.item!,
    Druckstufe: r.class!,
    Charge: r.lot!,
    'Nr.': r.serial!,
    Stück: r.quantity!,
  })),
  'orders.csv': [
    {
      order: 'PO-140',
      supplier: 'Harrow Bay Pipe Stores',
      item: 'PE-63-11',
      class: 'SDR 11',
      quantity: '24',
      lots: '',
    },
    {
      order: 'PO-140',
      supplier: 'Harrow Bay Pipe Stores',
      item: 'EFC-63',
      class: 'SDR 11',
      quantity: '20',
      lots: 'F7781 F7790',
    },
    {
      order: 'PO-141',
      supplier: 'Skerry Seal & Cement',
      item: 'CEM-CPVC',
      class: 'grade H',
      quantity: '12',
      lots: '',
    },
  ],
  'orders-large.csv': [
    {
      order: 'PO-900',
      supplier: 'Harrow Bay Pipe Stores',
      item: 'PE-63-11',
      class: 'SDR 11',
      quantity: String(LARGE),
      lots: '',
    },
  ],
  'delivery-large.csv': Array.from({ length: LARGE }, (_v, i) => ({
    note: 'DN-2900',
    item: 'PE-63-11',
    class: 'SDR 11',
    lot: `M${String((i % 200) + 1).padStart(3, '0')}`,
    serial: `N${String(i + 1).padStart(5, '0')}`,
    quantity: '1',
    length: '12',
  })),
}
for (const [name, list] of Object.entries(files))
  writeFileSync(`${folder}/${name}`, `${Papa.unparse(list)}\n`)

// One file of two encodings: the é of row 3 as UTF-8, that of row 5 as the older one.
const broken = Buffer.from(
  `${Papa.unparse(named('DN-2214', (r, i) => (i === 1 ? { ...r, lot: 'Lé431' } : i === 3 ? { ...r, lot: 'L~431' } : r)))}\n`,
  'utf8',
)
broken[broken.indexOf('L~431') + 1] = 0xe9
writeFileSync(`${folder}/delivery-broken-letters.csv`, broken)

const sheet = named('DN-2215')
await writeSpreadsheet([
  Object.keys(sheet[0]!).map((value) => ({ value, fontWeight: 'bold' as const })),
  ...sheet.map((r) =>
    Object.entries(r).map(([key, value]) =>
      key === 'quantity' ? { type: Number, value: Number(value) } : { type: String, value },
    ),
  ),
]).toFile(`${folder}/delivery-good.xlsx`)

const startedAt = Date.UTC(2026, 2, 9, 6, 0, 0)
for (const [name, leak] of [
  ['log-tight.csv', 0],
  ['log-leaking.csv', 110],
] as const)
  writeFileSync(
    `${folder}/${name}`,
    `${Papa.unparse(makeLog({ testPressure: 1250, startedAt, leak, seed: 7, step: 60 }))}\n`,
  )
