import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { creepOrLeak } from '../../../core/pressure/creep'
import { seededRandom } from '../../../core/random'

/** A hold of an hour, a reading every ten seconds: creep, leak and noise as asked. */
function hold({ creep = 0, leak = 0, noise = 300, seed = 1, tau = 60 }) {
  const random = seededRandom(seed)
  const rough = () => (random() + random() + random() - 1.5) * noise
  return Array.from({ length: 361 }, (_v, i) => {
    const t = i * 10
    return { t, v: 12e5 - creep * Math.log1p(t / tau) - (leak * t) / 3600 + rough() }
  })
}

describe('creep or leak', () => {
  it('finds the leak beside the creep, as large as it is', () => {
    const found = creepOrLeak(hold({ creep: 5000, leak: 30_000 }))!
    expect(found.sentence).toMatch(/it leaks/)
    expect(found.leak).toBeGreaterThan(30_000 - 2 * found.half)
    expect(found.leak).toBeLessThan(30_000 + 2 * found.half)
  })
  it('says when the pressure rises beside it', () =>
    expect(creepOrLeak(hold({ creep: 4000, leak: -30_000 }))!.sentence).toMatch(/rises beside/))
  it('cannot tell from fewer than twelve readings, nor from one moment', () => {
    const exact = hold({ creep: 5000, noise: 0 })
    expect(creepOrLeak(exact.slice(0, 11))).toBeNull()
    expect(creepOrLeak(exact.slice(0, 12))).not.toBeNull()
    expect(creepOrLeak(exact.slice(0, 20).map((p) => ({ ...p, t: 7 })))).toBeNull()
  })
  it('of readings without noise finds creep, leak and time constant as they are', () => {
    const found = creepOrLeak(hold({ creep: 5000, leak: 20_000, noise: 0, tau: 100 }))!
    expect(found.leak).toBeCloseTo(20_000, -2)
    expect(found.creep).toBeCloseTo(5000 * Math.log1p(36), -2)
    expect(found.tau / 100).toBeCloseTo(1, 1)
    expect(found.noise).toBeLessThan(20)
    expect(found.slope * 3600).toBeCloseTo(-found.leak, 6)
  })
  it('when it was measured does not matter', () => {
    const points = hold({ creep: 5000, leak: 10_000 })
    const later = points.map((p) => ({ ...p, t: p.t + 86_400 }))
    expect(creepOrLeak(later)!.leak).toBeCloseTo(creepOrLeak(points)!.leak, 3)
    expect(creepOrLeak(later)!.tau).toBeCloseTo(creepOrLeak(points)!.tau, 3)
  })
  it('more noise makes it less sure', () => {
    const half = (noise: number) => creepOrLeak(hold({ creep: 5000, noise }))!.half
    expect(half(900)).toBeGreaterThan(2 * half(300))
  })
  it('a larger leak is never found smaller', () =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 50 }), fc.integer({ min: 5, max: 40 }), (seed, more) => {
        const [small, large] = [10_000, 10_000 + more * 1000].map((leak) =>
          creepOrLeak(hold({ creep: 3000, leak, seed }))!,
        )
        expect(large!.leak).toBeGreaterThan(small!.leak)
      }),
      { numRuns: 25 },
    ))
  it('finds a fall that is creep alone to be creep, nineteen times of twenty', () => {
    const found = Array.from({ length: 40 }, (_v, seed) => creepOrLeak(hold({ creep: 5000, seed }))!)
    expect(found.filter((f) => Math.abs(f.leak) <= f.half).length).toBeGreaterThanOrEqual(35)
    expect(found[0]!.sentence).toMatch(/Creep explains all/)
    for (const f of found) expect(Math.abs(f.creep + f.leak - 5000 * Math.log1p(60))).toBeLessThan(1500)
  })
})
