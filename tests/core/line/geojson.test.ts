import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { geodesicLength, readAlignment } from '../../../core/line/alignment'
import { positionAt, writeAlignments, type WrittenLine } from '../../../core/line/geojson'

const line = (more: Partial<WrittenLine> = {}): WrittenLine => ({
  ...{ key: 'TF', name: 'Tarn Fell', material: 'concrete' },
  path: [
    { lon: -2.5, lat: 54.6, station: 0 },
    { lon: -2.49, lat: 54.61, station: 1286 },
  ],
  profile: [],
  structures: [],
  ...more,
})

describe('lines as GeoJSON', () => {
  it('come in again as they went out: course, stations and elevations', () => {
    const step = fc.tuple(
      fc.double({ min: -0.01, max: 0.01, noNaN: true }),
      fc.double({ min: 0.0005, max: 0.01, noNaN: true }),
    )
    const points = fc.array(step, { minLength: 1, maxLength: 30 })
    fc.assert(
      fc.property(points, (steps) => {
        const coordinates: [number, number, number][] = [[-2.5, 54.6, 100]]
        for (const [east, north] of steps) {
          const [lon, lat, z] = coordinates.at(-1)!
          coordinates.push([lon + east, lat + north, z - 0.3])
        }
        const made = readAlignment(JSON.stringify({ type: 'LineString', coordinates }))
        const again = readAlignment(
          JSON.stringify(writeAlignments([line({ path: made.path, profile: made.profile })])),
        )
        expect(again.path).toEqual(made.path)
        expect(again.profile.map((p) => p.station)).toEqual(made.profile.map((p) => p.station))
        for (const [i, p] of again.profile.entries())
          expect(p.elevation).toBeCloseTo(made.profile[i]!.elevation, 9)
      }),
      { numRuns: 60 },
    )
  })
  it('a line without a profile is given no elevation, one without a course no place', () => {
    const { features } = writeAlignments([line(), line({ key: 'X', path: [] })])
    expect(features.map((f) => f.properties)).toEqual([
      { key: 'TF', name: 'Tarn Fell', material: 'concrete' },
    ])
    expect(features[0]!.geometry.coordinates[0]).toEqual([-2.5, 54.6])
  })
  it('what stands on a line lies there, and what lies off it is left out', () => {
    const structures = [
      { name: 'MH 1', kind: 'manhole', station: 643 },
      { name: 'MH 9', kind: 'manhole', station: 9000 },
    ]
    const { features } = writeAlignments([line({ structures })])
    expect(features.slice(1).map((f) => f.properties)).toEqual([{ line: 'TF', ...structures[0] }])
    const [lon, lat] = features[1]!.geometry.coordinates as [number, number]
    expect([lon, lat]).toEqual([expect.closeTo(-2.495, 6), expect.closeTo(54.605, 6)])
  })
  it.each([
    [-1, null],
    [0, [-2.5, 54.6]],
    [1286, [-2.49, 54.61]],
    [1287, null],
  ])('station %d lies at %j', (station, at) => expect(positionAt(line().path, station)).toEqual(at))
  it('a place between two points is as far along as its station says', () => {
    const { path } = readAlignment(JSON.stringify({ type: 'LineString', coordinates: [[-2.5, 54.6], [-2.49, 54.61]] })) // prettier-ignore
    const half = path[1]!.station / 2
    expect(geodesicLength([-2.5, 54.6], positionAt(path, half)!)).toBeCloseTo(half, 1)
  })
})
