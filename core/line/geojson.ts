import { elevationAt, type ProfilePoint } from '../pressure/pack'
import type { PathPoint } from './alignment'

/** A line as it is written out: its course, and its elevations where it has them. */
export interface WrittenLine {
  key: string
  name: string
  material: string
  path: readonly PathPoint[]
  profile: readonly ProfilePoint[]
  structures: readonly { name: string; kind: string; station: number }[]
}

type Position = [lon: number, lat: number] | [lon: number, lat: number, elevation: number]

/** Where a station lies, straight between the points of the course; null off its ends. */
export function positionAt(path: readonly PathPoint[], station: number): [lon: number, lat: number] | null {
  const after = path.findIndex((p) => p.station >= station - 1e-9)
  if (after < 0 || path.length === 0 || station < path[0]!.station - 1e-9) return null
  const b = path[after]!
  const a = path[Math.max(0, after - 1)]!
  const share = b.station > a.station ? (station - a.station) / (b.station - a.station) : 0
  return [a.lon + share * (b.lon - a.lon), a.lat + share * (b.lat - a.lat)]
}

/**
 * Lines as GeoJSON (RFC 7946), each a LineString with elevations where its profile gives them, and what
 * stands on them as points. A line without a course of its own is left out: it has no place on earth.
 */
export function writeAlignments(lines: readonly WrittenLine[]) {
  const features = lines
    .filter((l) => l.path.length > 1)
    .flatMap(({ key, name, material, path, profile, structures }) => [
      {
        type: 'Feature' as const,
        properties: { key, name, material },
        geometry: {
          type: 'LineString' as const,
          coordinates: path.map(({ lon, lat, station }): Position =>
            profile.length > 0 ? [lon, lat, elevationAt(profile, station)] : [lon, lat],
          ),
        },
      },
      ...structures.flatMap((s) => {
        const at = positionAt(path, s.station)
        return at === null
          ? []
          : [
              {
                type: 'Feature' as const,
                properties: { line: key, ...s },
                geometry: { type: 'Point' as const, coordinates: at },
              },
            ]
      }),
    ])
  return { type: 'FeatureCollection' as const, features }
}
