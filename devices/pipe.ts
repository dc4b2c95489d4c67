import { seeded, type Random } from '../demo/random'

/** What the instruments on a pipe under test read at one time, SI; null where nothing was read. */
export interface Reading {
  /** ms, by the clock of the instrument */
  at: number
  /** Pa */
  pressure: number
  /** °C */
  pipe: number | null
  air: number | null
  /** m³ of water added so far */
  makeup: number | null
}

/** How a pipe behaves: kPa and L of water added, by seconds since the test began. */
export type Story = (t: number) => { pressure: number; makeup?: number }

const HOUR = 3600
/** Raised in `raise` seconds to so many kPa, then falling by so many an hour. */
export const shutIn =
  (test: number, perHour: number, raise = 300): Story =>
  (t) =>
    t < raise
      ? { pressure: (test * t) / raise, makeup: (14 * t) / raise }
      : { pressure: test + 3 - (perHour * (t - raise)) / HOUR, makeup: 14 }

export const stories: Readonly<Record<string, (test: number) => Story>> = {
  tight: (test) => shutIn(test, 4),
  leaking: (test) => shutIn(test, 140),
}

/** What is wrong with the instruments, as it is on site. */
export interface Faults {
  /** kPa, of the gauge from reading to reading */
  noise: number
  /** kPa an hour, of the gauge against the truth */
  drift: number
  /** seconds from, to: nothing can be read */
  dropOuts: readonly (readonly [from: number, to: number])[]
  /** one reading in so many has the time of the one before */
  repeats: number | null
}
export const sound: Faults = { noise: 0.4, drift: 0, dropOuts: [], repeats: null }

/** Instruments on a made-up pipe. The same seed makes the same readings. */
export class PipeUnderTest {
  private readonly random: Random
  private count = 0
  private lastAt: number | null = null

  constructor(
    private readonly story: Story,
    private readonly begun: number,
    private readonly faults: Faults = sound,
    seed = 7,
  ) {
    this.random = seeded(seed)
  }

  /** Reads everything at a time, ms; null in a drop-out. */
  read(now: number): Reading | null {
    const t = (now - this.begun) / 1000
    const { noise, drift, dropOuts, repeats } = this.faults
    const { pressure, makeup = 0 } = this.story(Math.max(0, t))
    const rough = (this.random.next() + this.random.next() - 1) * noise
    if (dropOuts.some(([from, to]) => t >= from && t < to)) return null
    this.count++
    const stuck = repeats !== null && this.lastAt !== null && this.count % repeats === 0
    this.lastAt = stuck ? this.lastAt! : now
    return {
      at: this.lastAt,
      pressure: Math.round((pressure + rough + (drift * t) / HOUR) * 1000),
      pipe: Number((12 + 0.02 * Math.sin(t / 4000)).toFixed(2)),
      air: Number((14 + 2 * Math.sin(t / 9000)).toFixed(1)),
      makeup: Number((makeup / 1000).toFixed(6)),
    }
  }
}
