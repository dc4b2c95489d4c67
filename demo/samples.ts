import { mkdirSync, writeFileSync } from 'node:fs'
import Papa from 'papaparse'
import { makeLog } from './pressure-log'

/** Writes the sample files that ship: delivery notes good and bad, logs tight and leaking. */
const folder = process.argv[2] ?? 'samples'
mkdirSync(folder, { recursive: true })
const pipe = (n: number, more: object = {}) => ({ note: 'DN-2207', item: 'PE-63-11', class: 'SDR 11', lot: 'L2431', serial: `B${String(n).padStart(3, '0')}`, quantity: '1', length: '12 m', ...more })
const coupler = (n: number, more: object = {}) => ({ note: 'DN-2207', item: 'EFC-63', class: 'SDR 11', lot: 'F7781', serial: `K${String(n).padStart(3, '0')}`, quantity: '1', length: '', ...more })
const rows = [...Array.from({ length: 8 }, (_v, i) => pipe(i + 1)), ...Array.from({ length: 6 }, (_v, i) => coupler(i + 1))]
const files: Record<string, object[]> = {
  'delivery-good.csv': rows,
  'delivery-short.csv': rows.slice(0, 6).map((r) => ({ ...r, note: 'DN-2208' })),
  'delivery-wrong-class.csv': rows.map((r, i) => ({ ...r, note: 'DN-2209', ...(i === 2 ? { class: 'SDR 17' } : {}) })),
  'delivery-bad-rows.csv': rows.map((r, i) => ({ ...r, note: 'DN-2210', serial: i === 5 ? 'X-B001' : `X-${r.serial}`, ...(i === 3 ? { quantity: 'one' } : {}), ...(i === 7 ? { lot: '=1+1' } : {}) })),
}
for (const [name, list] of Object.entries(files)) writeFileSync(`${folder}/${name}`, `${Papa.unparse(list)}\n`)
const startedAt = Date.UTC(2026, 2, 9, 6, 0, 0)
for (const [name, leak] of [['log-tight.csv', 0], ['log-leaking.csv', 110]] as const) writeFileSync(`${folder}/${name}`, `${Papa.unparse(makeLog({ testPressure: 1250, startedAt, leak, seed: 7, step: 60 }))}\n`)
