import { Problem } from '../problem'
import type { Point } from './curve'

export const eventKinds = [
  'reached',
  'pump-off',
  'lowering',
  'lowered',
  'vented',
  'paused',
  'resumed',
  'end',
] as const
export type TestEventKind = (typeof eventKinds)[number]
export interface TestEvent {
  t: number
  kind: TestEventKind
}

/** @throws Problem naming `events` */
export function readEvents(raw: unknown): TestEvent[] {
  if (raw === undefined || raw === null) return []
  const refuse = (sentence: string): never => {
    throw new Problem('bad-events', sentence, 'events')
  }
  if (!Array.isArray(raw)) return refuse('Events must be a list.')
  return raw
    .map((e: unknown, i): TestEvent => {
      const { t, kind } = (e ?? {}) as { t?: unknown; kind?: unknown }
      if (typeof t !== 'number' || !Number.isFinite(t)) refuse(`Event ${i + 1} has no time.`)
      if (!eventKinds.includes(kind as TestEventKind))
        refuse(`Event ${i + 1} must be one of ${eventKinds.join(', ')}.`)
      return { t: t as number, kind: kind as TestEventKind }
    })
    .sort((a, b) => a.t - b.t)
}

export const eventAt = (events: readonly TestEvent[], kind: TestEventKind, from = -Infinity): number | null =>
  events.find((e) => e.kind === kind && e.t >= from)?.t ?? null

/** Times that are left out of a hold. */
export interface Pause {
  from: number
  to: number
}

/** Pauses of a test; one that is not over runs on. */
export function pausesOf(events: readonly TestEvent[]): Pause[] {
  const out: Pause[] = []
  for (const e of events) {
    const open = out.at(-1)
    if (e.kind === 'paused' && (!open || open.to !== Infinity)) out.push({ from: e.t, to: Infinity })
    if (e.kind === 'resumed' && open?.to === Infinity) open.to = e.t
  }
  return out
}

/** When a hold that begins at a time has run so long, pauses not counted; Infinity while one is open. */
export function holdEnd(begin: number, duration: number, pauses: readonly Pause[]): number {
  let end = begin + duration
  for (const { from, to } of pauses) {
    if (to <= begin || from >= end) continue
    end += to - Math.max(from, begin)
  }
  return end
}

export const unpaused = (points: readonly Point[], pauses: readonly Pause[]): Point[] =>
  points.filter((p) => !pauses.some(({ from, to }) => p.t > from && p.t < to))

/** The first time at which a pressure is there, by the gauge. */
export const reachedAt = (
  events: readonly TestEvent[],
  pressure: readonly Point[],
  wanted: number,
  uncertainty: number,
): number | null => eventAt(events, 'reached') ?? pressure.find((p) => p.v >= wanted - uncertainty)?.t ?? null

/**
 * The steepest fall of at least so much within ten minutes, from a time on: from its top to its foot.
 */
export function steepestFall(pressure: readonly Point[], from: number, least: number): [Point, Point] | null {
  const list = pressure.filter((p) => p.t >= from)
  let best: { i: number; k: number; rate: number } | null = null
  for (let i = 0; i < list.length; i++)
    for (let k = i + 1; k < list.length && list[k]!.t - list[i]!.t <= 600; k++) {
      const fall = list[i]!.v - list[k]!.v
      const rate = fall / (list[k]!.t - list[i]!.t)
      if (fall >= least && (!best || rate > best.rate)) best = { i, k, rate }
    }
  if (!best) return null
  // What falls on nearly as fast belongs to it.
  const falls = (a: number) =>
    (list[a]!.v - list[a + 1]!.v) / (list[a + 1]!.t - list[a]!.t) >= 0.2 * best.rate
  let { i, k } = best
  while (i > 0 && falls(i - 1) && list[k]!.t - list[i - 1]!.t <= 600) i--
  while (k + 1 < list.length && falls(k) && list[k + 1]!.t - list[i]!.t <= 600) k++
  return [list[i]!, list[k]!]
}
