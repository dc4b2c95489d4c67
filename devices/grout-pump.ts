import { seeded } from '../demo/random'

/** What a grout pump reads at one time: seconds since its start, Pa at its gauge, m³ pumped so far. */
export interface PumpReading {
  t: number
  pressure: number
  volume: number
}

/** How the annulus takes the grout. */
export interface Annulus {
  /** room around the pipe, m³ */
  room: number
  /** gauge pressure that the pump works against while the room is empty, and what the full column adds, Pa */
  base: number
  head: number
}

/** How a pump works: m³ an hour, and whether whoever runs it watches the gauge. */
export const pumpStories = {
  careful: { rate: 6, slow: 0.35 },
  hasty: { rate: 14, slow: 1 },
} as const
export type PumpStory = keyof typeof pumpStories

/** Grout that flows costs pressure: Pa for each m³ an hour. */
const FRICTION = 1400
/** Full of grout, with a little lost at the bulkheads. */
const ENOUGH = 1.03

/**
 * A made-up grout pump. It slows down for the last fifth when somebody watches the gauge, and stops when the
 * annulus is full. The same seed makes the same readings.
 */
export class GroutPump {
  private volume = 0
  private t = 0
  private readonly random

  constructor(
    private readonly annulus: Annulus,
    private readonly story: PumpStory,
    seed = 11,
  ) {
    this.random = seeded(seed)
  }

  get full(): boolean {
    return this.volume >= this.annulus.room * ENOUGH
  }

  /** Pumps on for so many seconds. @returns what its instruments then read */
  run(seconds: number): PumpReading {
    const { room, base, head } = this.annulus
    const { rate, slow } = pumpStories[this.story]
    const now = this.full ? 0 : this.volume > 0.8 * room ? rate * slow : rate
    this.volume = Math.min(room * ENOUGH, this.volume + (now * seconds) / 3600)
    this.t += seconds
    const rough = (this.random.next() + this.random.next() - 1) * 600
    const pressure = base + head * Math.min(1, this.volume / room) + FRICTION * now + rough
    return { t: this.t, pressure: Math.round(pressure), volume: Number(this.volume.toFixed(4)) }
  }
}
