import Papa from 'papaparse'
import { readPressureLog, writePressureLog } from '../core/pressure/log'
import { evaluateLog } from '../core/pressure/report'
import { seededRandom } from '../core/random'

/**
 * A day at one reading a second: the file read, cleaned and evaluated, against one plain pass over the same
 * rows that computes their mean and slope; then the evaluation alone, of rows that are read already.
 */
const ROWS = 86_400
const random = seededRandom(3)
const csv = writePressureLog({
  startedAt: Date.parse('2026-03-09T06:00:00Z'),
  samples: Array.from({ length: ROWS }, (_v, t) => ({
    t,
    pressure: (t < 900 ? (15e5 * t) / 900 : 15.03e5 - t / 10) + (random() - 0.5) * 900,
    ...{ pipe: 12 + Math.sin(t / 9000) / 20, air: 14, makeup: null },
  })),
})
const test = {
  method: 'hydro-drop',
  parameters: { testPressure: 15e5, duration: 22 * 3600 },
  section: {
    ...{ length: 400, insideDiameter: 0.2, wall: 0.006, modulus: 200e9 },
    ...{ poisson: 0.3, pipeExpansion: 12e-6, restrained: true },
  },
  gauge: { uncertainty: 2500 },
}

function plainly(text: string) {
  const { data } = Papa.parse<Record<string, string>>(text, { header: true })
  let [n, st, sp, stt, stp] = [0, 0, 0, 0, 0]
  let first = NaN
  for (const row of data) {
    const at = Date.parse(row.time!)
    if (n === 0) first = at
    const [t, p] = [(at - first) / 1000, Number(row['pressure kPa']) * 1000]
    n++
    st += t
    sp += p
    stt += t * t
    stp += t * p
  }
  return { mean: sp / n, slope: (n * stp - st * sp) / (n * stt - st * st) }
}
const timeOf = (work: () => unknown) => {
  const from = performance.now()
  work()
  return performance.now() - from
}
const median = (list: number[]) => [...list].sort((a, b) => a - b)[list.length >> 1]!
const rounds = Array.from({ length: 7 }, () => ({
  plain: timeOf(() => plainly(csv)),
  whole: timeOf(() => evaluateLog(test, readPressureLog(csv).samples)),
}))
const { samples } = readPressureLog(csv)
const alone = median(Array.from({ length: 7 }, () => timeOf(() => evaluateLog(test, samples))))
const [plain, whole] = [median(rounds.map((r) => r.plain)), median(rounds.map((r) => r.whole))]
console.log(evaluateLog(test, samples).sentence)
console.log(
  `${ROWS} rows: a plain pass ${plain.toFixed(0)} ms; read, cleaned and evaluated ${whole.toFixed(0)} ms, ` +
    `${(whole / plain).toFixed(2)} times (2 asked). Evaluated alone ${alone.toFixed(0)} ms.`,
)
