import { seeded } from './random'

export interface LogShape {
  /** kPa at the gauge */
  testPressure: number
  startedAt: number
  /** kPa an hour that the line loses in the hold; 0 is tight */
  leak: number
  seed: number
  /** seconds between samples */
  step?: number
}

/**
 * A made-up logger trace of a polyethylene test by expansion: filling up, four hours kept
 * with strokes of makeup water, lowered by 70 kPa, an hour alone.
 */
export function makeLog({
  testPressure,
  startedAt,
  leak,
  seed,
  step = 30,
}: LogShape): { time: string; 'pressure kPa': number; temperature: number; 'makeup L': number }[] {
  const random = seeded(seed)
  const noise = () => (random.next() + random.next() - 1) * 1.2
  const rows: ReturnType<typeof makeLog> = []
  const raise = 40 * 60
  const expansion = 4 * 3600 + 300
  const lowering = 180
  const hold = 3600 + 240
  let makeup = 0
  let stroke = 0
  for (let t = 0; t <= raise + expansion + lowering + hold; t += step) {
    let pressure: number
    if (t < raise) {
      pressure = 20 + (testPressure + 4 - 20) * Math.pow(t / raise, 1.4)
      makeup += (step / raise) * 180
    } else if (t < raise + expansion) {
      const hours = (t - raise) / 3600
      // Creep makes the pressure sag less and less; the pump brings it back in strokes.
      stroke += (step / 3600) * (26 / Math.sqrt(0.2 + hours))
      if (stroke > 18) {
        makeup += stroke * 0.9
        stroke = 0
      }
      pressure = testPressure + 6 - stroke
    } else if (t < raise + expansion + lowering) {
      pressure = testPressure - 4 - (70 * (t - raise - expansion)) / lowering
    } else {
      const hours = (t - raise - expansion - lowering) / 3600
      pressure = testPressure - 74 + 9 * (1 - Math.exp(-hours / 0.18)) - leak * hours
    }
    rows.push({
      time: new Date(startedAt + t * 1000).toISOString(),
      'pressure kPa': Number((pressure + noise()).toFixed(1)),
      temperature: Number((11.4 + 0.3 * Math.sin(t / 5000)).toFixed(2)),
      'makeup L': Number(makeup.toFixed(2)),
    })
  }
  return rows
}
