import geodesic from 'geographiclib-geodesic'
import { Problem } from '../problem'
import type { ProfilePoint } from '../pressure/pack'

/** A point of an alignment: degrees east and north, and where it lies along the line, m. */
export interface PathPoint {
  lon: number
  lat: number
  station: number
}

/** A line as its own coordinates give it. */
export interface Alignment {
  name: string | null
  path: PathPoint[]
  /** elevations along the line, m; empty where the file has none */
  profile: ProfilePoint[]
  /** what a person should look at before it is taken in, each in a sentence */
  remarks: string[]
}

type Position = [lon: number, lat: number, elevation?: number]

/** More is no alignment that anybody set out. */
export const MOST_POINTS = 50_000
/** Two points closer than this are one, m. */
const SAME = 0.001

/** Length of the shortest way on the WGS 84 ellipsoid between two positions, m. Source: Karney 2013. */
export const geodesicLength = (a: Position, b: Position): number =>
  geodesic.Geodesic.WGS84.Inverse(a[1], a[0], b[1], b[0]).s12!

interface Found {
  name: string | null
  positions: unknown[]
}

function linesOf(node: unknown, name: string | null, out: Found[]): void {
  if (typeof node !== 'object' || node === null) return
  const { type, features, geometry, geometries, coordinates, properties } = node as Record<string, unknown>
  const own = (properties as { name?: unknown } | null | undefined)?.name
  const named = typeof own === 'string' && own.trim() ? own.trim().slice(0, 120) : name
  if (type === 'FeatureCollection' && Array.isArray(features)) for (const f of features) linesOf(f, name, out)
  else if (type === 'Feature') linesOf(geometry, named, out)
  else if (type === 'GeometryCollection' && Array.isArray(geometries))
    for (const g of geometries) linesOf(g, named, out)
  else if (type === 'LineString' && Array.isArray(coordinates))
    out.push({ name: named, positions: coordinates })
  else if (type === 'MultiLineString' && Array.isArray(coordinates))
    for (const part of coordinates) out.push({ name: named, positions: Array.isArray(part) ? part : [] })
}

function readPosition(raw: unknown, i: number): Position {
  const [lon, lat, elevation] = Array.isArray(raw) ? (raw as unknown[]) : []
  const number = (v: unknown): v is number => typeof v === 'number' && Number.isFinite(v)
  if (!number(lon) || !number(lat))
    throw new Problem('bad-file', `Point ${i + 1} of the line has no longitude and latitude.`, 'file')
  if (Math.abs(lat) > 90)
    throw new Problem(
      'wrong-order',
      `Point ${i + 1} lies at ${lat}° north: a GeoJSON position is longitude first, then latitude, in degrees.`,
      'file',
    )
  if (Math.abs(lon) > 180)
    throw new Problem(
      'bad-file',
      `Point ${i + 1} lies at ${lon}° east: positions are in degrees, not metres.`,
      'file',
    )
  if (elevation !== undefined && elevation !== null && !number(elevation))
    throw new Problem('bad-file', `The elevation of point ${i + 1} is not a number.`, 'file')
  return number(elevation) ? [lon, lat, elevation] : [lon, lat]
}

/**
 * Reads an alignment: the one line of a GeoJSON file (RFC 7946), with stations by true length on the
 * ellipsoid from its first point, and its elevations where it has them.
 *
 * @param which the line to take, by its place, where the file has several
 * @throws Problem `bad-file`, `wrong-order`, `several-lines` (details: their names), `too-large`
 */
export function readAlignment(text: string, which: number | null = null): Alignment {
  let json: unknown
  try {
    json = JSON.parse(text.replace(/^\uFEFF/, ''))
  } catch {
    throw new Problem('bad-file', 'The file is not GeoJSON: it cannot be read as JSON.', 'file')
  }
  const lines: Found[] = []
  linesOf(json, null, lines)
  if (lines.length === 0)
    throw new Problem('bad-file', 'The file has no line: an alignment is a LineString.', 'file')
  if (lines.length > 1 && which === null)
    throw new Problem('several-lines', `The file has ${lines.length} lines: choose one.`, 'file', {
      lines: lines.slice(0, 50).map((l, i) => l.name ?? `Line ${i + 1}, ${l.positions.length} points`),
    })
  const line = lines[which ?? 0]
  if (!line) throw new Problem('bad-file', 'There is no such line in the file.', 'which')
  if (line.positions.length > MOST_POINTS)
    throw new Problem('too-large', `The line has more than ${MOST_POINTS} points.`, 'file')
  return laidOut(line.name, line.positions.map(readPosition))
}

function laidOut(name: string | null, positions: Position[]): Alignment {
  const remarks: string[] = []
  const path: PathPoint[] = []
  const profile: ProfilePoint[] = []
  let [station, doubled, without] = [0, 0, 0]
  let before: Position | null = null
  for (const position of positions) {
    const step = before ? geodesicLength(before, position) : 0
    if (before && step < SAME) {
      doubled++
      continue
    }
    station += step
    path.push({ lon: position[0], lat: position[1], station })
    if (position[2] === undefined) without++
    else profile.push({ station, elevation: position[2] })
    before = position
  }
  if (path.length < 2) throw new Problem('bad-file', 'A line has at least two points that differ.', 'file')
  if (doubled > 0) remarks.push(`${doubled} points stood twice and were taken once.`)
  if (profile.length === 0) remarks.push('The points have no elevations: give the profile by itself.')
  else if (without > 0)
    remarks.push(`${without} points have no elevation: the profile runs straight past them.`)
  const crossing = crossingOf(path)
  if (crossing)
    remarks.push(
      `The line crosses itself near stations ${crossing.map((s) => s.toFixed(0)).join(' and ')} m: is that meant?`,
    )
  return { name, path, profile, remarks }
}

/** Which side of a line through two points a third lies on, in the plane of degrees. */
const side = (a: PathPoint, b: PathPoint, c: PathPoint): number =>
  Math.sign((b.lon - a.lon) * (c.lat - a.lat) - (b.lat - a.lat) * (c.lon - a.lon))
const cross = (a: PathPoint, b: PathPoint, c: PathPoint, d: PathPoint): boolean =>
  side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0

/**
 * The first two stations at which a line crosses itself, or null. Segments are looked up by the squares
 * of a grid that they touch, so that long lines take no longer than they must.
 */
export function crossingOf(path: readonly PathPoint[]): [number, number] | null {
  const [lons, lats] = [path.map((p) => p.lon), path.map((p) => p.lat)]
  const least = (v: number[]) => v.reduce((a, b) => Math.min(a, b))
  const most = (v: number[]) => v.reduce((a, b) => Math.max(a, b))
  const squares = Math.max(1, Math.ceil(Math.sqrt(path.length)))
  const grid = (value: number, from: number, to: number) =>
    to > from ? Math.min(squares - 1, Math.floor(((value - from) / (to - from)) * squares)) : 0
  const [west, east, south, north] = [least(lons), most(lons), least(lats), most(lats)]
  const cells = new Map<number, number[]>()
  for (let i = 0; i + 1 < path.length; i++) {
    const [a, b] = [path[i]!, path[i + 1]!]
    const columns = [grid(a.lon, west, east), grid(b.lon, west, east)].sort((x, y) => x - y)
    const rows = [grid(a.lat, south, north), grid(b.lat, south, north)].sort((x, y) => x - y)
    for (let column = columns[0]!; column <= columns[1]!; column++)
      for (let row = rows[0]!; row <= rows[1]!; row++) {
        const cell = column * squares + row
        const known = cells.get(cell) ?? []
        for (const j of known)
          if (j < i - 1 && cross(path[j]!, path[j + 1]!, a, b)) return [path[j]!.station, a.station]
        known.push(i)
        cells.set(cell, known)
      }
  }
  return null
}
