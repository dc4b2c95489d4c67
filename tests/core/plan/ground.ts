import { readFileSync } from 'node:fs'
import type { Ground } from '../../../core/plan/lists/define'
import { loadProcedure } from '../../../core/procedure/load'

const procedure = (key: string) => {
  const url = new URL(`../../../procedures/${key}.yaml`, import.meta.url)
  return loadProcedure(readFileSync(url, 'utf8')).procedure
}

/** What a small project has, for lists that are read against it. */
export const ground: Ground = {
  lines: new Map([
    ['TF', { key: 'TF', from: 0, to: 100, material: 'concrete', profiled: true }],
    ['PW', { key: 'PW', from: 0, to: 500, material: 'polyethylene', profiled: true }],
    ['BARE', { key: 'BARE', from: 0, to: 50, material: 'polyethylene', profiled: false }],
  ]),
  crews: new Map([['CREW FELL', 'Crew Fell']]),
  systems: new Map([
    ['rc-confined-ring', { ofReach: false, issued: procedure('rc-confined-ring') }],
    ['embed-flexible', { ofReach: true, issued: procedure('embed-flexible') }],
    ['embed-draft', { ofReach: true, issued: null }],
  ]),
  people: new Map([['ada', 'Ada Example']]),
  instruments: new Map([
    ['GAUGE 1', { name: 'Gauge 1', quantity: 'pressure', max: 25e5, calibrated: ['2026-01-12'] }],
  ]),
  reaches: new Map([['TF', [{ name: 'R-1', from: 0, to: 20 }]]]),
  facts: new Map([
    ['pipe.od', 'length'],
    ['pipe.rating', 'pressure'],
    ['pipe.lined', 'flag'],
    ['pipe.grade', 'word'],
  ]),
  taken: new Set(['TF-900']),
}
