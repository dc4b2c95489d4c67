import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { crossingOf, geodesicLength, readAlignment, type PathPoint } from '../../../core/line/alignment'
import { Problem } from '../../../core/problem'

type P = number[]
const line = (...coordinates: P[]) => ({ type: 'LineString', coordinates })
const feature = (geometry: object, name?: string) => ({
  type: 'Feature',
  properties: name ? { name } : null,
  geometry,
})
const collection = (...features: object[]) => JSON.stringify({ type: 'FeatureCollection', features })
const refusal = (text: string, which: number | null = null): Problem => {
  try {
    readAlignment(text, which)
  } catch (error) {
    if (error instanceof Problem) return error
    throw error
  }
  throw new Error('It was taken.')
}

/** Vincenty's formula of 1975 on the same ellipsoid: another way to the same length, written from its paper. */
function vincenty([lon1, lat1]: P, [lon2, lat2]: P): number {
  const [a, f] = [6_378_137, 1 / 298.257223563]
  const b = a * (1 - f)
  const rad = (d: number) => (d * Math.PI) / 180
  const L = rad(lon2! - lon1!)
  const [U1, U2] = [Math.atan((1 - f) * Math.tan(rad(lat1!))), Math.atan((1 - f) * Math.tan(rad(lat2!)))]
  const [sU1, cU1, sU2, cU2] = [Math.sin(U1), Math.cos(U1), Math.sin(U2), Math.cos(U2)]
  let lambda = L
  for (let i = 0; i < 200; i++) {
    const [sl, cl] = [Math.sin(lambda), Math.cos(lambda)]
    const sinS = Math.hypot(cU2 * sl, cU1 * sU2 - sU1 * cU2 * cl)
    if (sinS === 0) return 0
    const cosS = sU1 * sU2 + cU1 * cU2 * cl
    const sigma = Math.atan2(sinS, cosS)
    const sinA = (cU1 * cU2 * sl) / sinS
    const cos2A = 1 - sinA * sinA
    const cos2M = cos2A === 0 ? 0 : cosS - (2 * sU1 * sU2) / cos2A
    const C = (f / 16) * cos2A * (4 + f * (4 - 3 * cos2A))
    const before = lambda
    lambda = L + (1 - C) * f * sinA * (sigma + C * sinS * (cos2M + C * cosS * (-1 + 2 * cos2M * cos2M)))
    if (Math.abs(lambda - before) > 1e-13) continue
    const u2 = (cos2A * (a * a - b * b)) / (b * b)
    const A = 1 + (u2 / 16_384) * (4096 + u2 * (-768 + u2 * (320 - 175 * u2)))
    const B = (u2 / 1024) * (256 + u2 * (-128 + u2 * (74 - 47 * u2)))
    const dS =
      B *
      sinS *
      (cos2M +
        (B / 4) *
          (cosS * (-1 + 2 * cos2M * cos2M) -
            (B / 6) * cos2M * (-3 + 4 * sinS * sinS) * (-3 + 4 * cos2M * cos2M)))
    return b * A * (sigma - dS)
  }
  throw new Error('It does not converge.')
}

describe('an alignment from GeoJSON', () => {
  it('has stations by true length, its name, and its elevations', () => {
    const found = readAlignment(
      collection(feature(line([-2.5, 54.6, 410], [-2.49, 54.6, 408], [-2.49, 54.61, 405]), 'Fell')),
    )
    expect(found.name).toBe('Fell')
    expect(found.path[0]!.station).toBe(0)
    expect(found.path[1]!.station).toBeCloseTo(vincenty([-2.5, 54.6], [-2.49, 54.6]), 4)
    expect(found.profile.map((p) => p.elevation)).toEqual([410, 408, 405])
    expect(found.remarks).toEqual([])
  })
  it('the shipped sample is a line of some 600 m without elevations', () => {
    const { path, remarks } = readAlignment(readFileSync('samples/own-project/alignment.geojson', 'utf8'))
    expect(path.at(-1)!.station).toBeGreaterThan(590)
    expect(path.at(-1)!.station).toBeLessThan(640)
    expect(remarks).toEqual(['The points have no elevations: give the profile by itself.'])
  })
  it('stations agree with another formula to a millimetre in ten kilometres, anywhere', () => {
    const place = fc.tuple(
      fc.double({ min: -179, max: 179, noNaN: true }),
      fc.double({ min: -80, max: 80, noNaN: true }),
    )
    fc.assert(
      fc.property(place, fc.double({ min: 0, max: 360, noNaN: true }), ([lon, lat], bearing) => {
        const reach = 0.09
        const to = [
          lon + (reach * Math.sin(bearing)) / Math.cos((lat * Math.PI) / 180),
          lat + reach * Math.cos(bearing),
        ]
        const length = geodesicLength([lon, lat], [to[0]!, to[1]!])
        expect(length).toBeGreaterThan(5000)
        expect(Math.abs(length - vincenty([lon, lat], to))).toBeLessThan(0.001)
      }),
    )
  })
  it('points that stand twice are taken once, and it is said', () => {
    const { path, remarks } = readAlignment(JSON.stringify(line([0, 50], [0, 50], [0.01, 50])))
    expect(path).toHaveLength(2)
    expect(remarks[0]).toContain('1 points stood twice')
  })
  it('of several lines one is chosen by its name', () => {
    const text = collection(
      feature(line([0, 50], [0, 51]), 'North'),
      feature(line([1, 50], [1, 51])),
      feature(line([2, 50], [2, 51]), 'South'),
    )
    const problem = refusal(text)
    expect([problem.code, problem.details]).toEqual([
      'several-lines',
      { lines: ['North', 'Line 2, 2 points', 'South'] },
    ])
    expect(readAlignment(text, 2).name).toBe('South')
    expect(refusal(text, 7).field).toBe('which')
  })
  it('a line that crosses itself is named by its stations', () => {
    const { remarks } = readAlignment(
      JSON.stringify(line([0, 0, 1], [0.02, 0, 1], [0.02, 0.01, 1], [0.01, 0.01, 1], [0.01, -0.01, 1])),
    )
    expect(remarks).toHaveLength(1)
    expect(remarks[0]).toMatch(/^The line crosses itself near stations 0 and 4\d\d\d m/)
  })
  it.each([
    ['latitude first', line([54.6, -122.4], [54.7, -122.4]), 'wrong-order', /longitude first/],
    ['metres', line([412_345, 54], [412_445, 54]), 'bad-file', /not metres/],
    ['a point without numbers', line([0, 50], ['x', 50] as unknown as P), 'bad-file', /^Point 2/],
    [
      'an elevation that is none',
      line([0, 50], [0, 51, 'deep'] as unknown as P),
      'bad-file',
      /elevation of point 2/,
    ],
    ['one point', line([0, 50], [0, 50]), 'bad-file', /two points/],
    ['no line', { type: 'Point', coordinates: [0, 50] }, 'bad-file', /no line/],
    ['nothing', null, 'bad-file', /no line/],
  ])('%s is refused with its reason', (_, geometry, code, sentence) => {
    const problem = refusal(JSON.stringify(geometry))
    expect([problem.code, problem.field]).toEqual([code, 'file'])
    expect(problem.message).toMatch(sentence)
  })
  it('what is no JSON is refused', () => {
    expect(refusal('station,invert\n0,1').message).toContain('cannot be read as JSON')
  })
  it('ten times as many points take about ten times as long, not a hundred', () => {
    const wavy = (n: number) =>
      JSON.stringify(
        line(...Array.from({ length: n }, (_v, i) => [i * 1e-5, 50 + 0.001 * Math.sin(i / 40), 100])),
      )
    const [few, many] = [wavy(2_000), wavy(20_000)]
    const { path, remarks } = readAlignment(many)
    expect([path.length, remarks]).toEqual([20_000, []])
    // The quickest of several: what a busy machine adds is in all but that.
    const quickest = (text: string) =>
      Math.min(
        ...Array.from({ length: 5 }, () => {
          const start = performance.now()
          readAlignment(text)
          return performance.now() - start
        }),
      )
    expect(quickest(many) / quickest(few)).toBeLessThan(40)
  })
  it('looking up by squares finds a crossing wherever comparing every pair does', () => {
    const every = (path: PathPoint[]) => {
      const side = (a: PathPoint, b: PathPoint, c: PathPoint) =>
        Math.sign((b.lon - a.lon) * (c.lat - a.lat) - (b.lat - a.lat) * (c.lon - a.lon))
      for (let i = 0; i + 1 < path.length; i++)
        for (let j = 0; j < i - 1; j++) {
          const [a, b, c, d] = [path[j]!, path[j + 1]!, path[i]!, path[i + 1]!]
          if (side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0) return true
        }
      return false
    }
    const point = fc.record({
      lon: fc.integer({ min: 0, max: 40 }),
      lat: fc.integer({ min: 0, max: 40 }),
      station: fc.constant(0),
    })
    fc.assert(
      fc.property(fc.array(point, { minLength: 2, maxLength: 14 }), (path) => {
        expect(crossingOf(path) !== null).toBe(every(path))
      }),
    )
  })
})
