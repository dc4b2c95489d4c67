import { readFileSync } from 'node:fs'
import Papa from 'papaparse'
import { elevationAt } from '../core/pressure/pack'
import { readPressureLog } from '../core/pressure/log'
import { evaluateLog } from '../core/pressure/report'
import { insertFile } from '../server/db/files'
import { alignmentsOf } from '../server/db/projects'
import { findPack, insertPack, savePack } from '../server/db/packs'
import { insertSamples } from '../server/db/samples'
import { raiseNcr } from '../server/services/ncrs'
import { projectPack, testOf } from '../server/services/pack-sheet'
import { sha256 } from '../server/services/record'
import { DAY, HOUR, MINUTE, write, type Ground } from './ground'
import { makeLog } from './pressure-log'
import { blownUp, madeUp, rowsOf, seeping, shutIn, threePhase, type LogRow } from './test-logs'

interface Planned {
  number: string
  line: string
  from: number
  to: number
  method: string
  gauge: 'gauge' | 'low gauge'
  uncertainty: number
  dueDays: number
  story: 'signed' | 'failed' | 'evaluated' | 'planned' | 'running'
  section: Record<string, number | boolean>
  outsideDiameter: number
  rating: number
  weakest: string
  testPressure: number
  required: number
  material: string
  parameters: Record<string, unknown>
  /** how long the test takes, h, and its log */
  hours?: number
  log?: (startedAt: number) => LogRow[]
}

const SEED = 20_411
const PE = {
  method: 'pe-expansion',
  gauge: 'gauge',
  uncertainty: 2500,
  rating: 16e5,
  testPressure: 12.5e5,
  required: 10e5,
  material: 'polyethylene',
  parameters: { testPressure: 12.5e5 },
  hours: 5.8,
} as const

/** Packs of the two polyethylene lines that the crews work at. */
function ofMain(): Planned[] {
  const list: [number: string, line: 'RM' | 'SB', from: number, to: number, due: number, Planned['story']][] =
    [
      ['TP-01', 'RM', 0, 900, -12, 'signed'],
      ['TP-02', 'RM', 900, 1500, -5, 'failed'],
      ['TP-03', 'RM', 1500, 2100, 0.1, 'planned'],
      ['TP-04', 'RM', 2100, 2760, 0.3, 'planned'],
      ['TP-05', 'SB', 0, 72, 0.4, 'planned'],
    ]
  return list.map(([number, line, from, to, dueDays, story]) => ({
    ...{ ...PE, number, line, from, to, dueDays, story },
    section:
      line === 'RM'
        ? { length: to - from, insideDiameter: 0.2578, wall: 0.0286, modulus: 900e6 }
        : { length: to - from, insideDiameter: 0.0514, wall: 0.0058, modulus: 900e6 },
    outsideDiameter: line === 'RM' ? 0.315 : 0.063,
    weakest: line === 'RM' ? 'Pipe PE 315 SDR 11' : 'Pipe PE 63 SDR 11',
    log: (startedAt) =>
      makeLog({
        ...{ testPressure: 1250, startedAt, leak: story === 'failed' ? 96 : 0, seed: SEED + from, step: 60 },
      }),
  }))
}

/** One of each other method, on the line that it belongs to; the brine line failed and is being halved. */
function ofOthers(g: Ground): Planned[] {
  const rows = (
    length: number,
    step: number,
    noise: number,
    at: Parameters<typeof rowsOf>[1]['at'],
    temperature?: (t: number) => number,
  ): NonNullable<Planned['log']> => {
    return (startedAt) =>
      rowsOf(g.random, { startedAt, length, step, at, noise, ...(temperature ? { temperature } : {}) })
  }
  const low = { gauge: 'low gauge', uncertainty: 150, rating: 62e3, required: 0 } as const
  const brine = (number: string, from: number, to: number, dueDays: number, fall: number): Planned => ({
    ...{ number, line: 'BL', from, to, method: 'hydro-drop', gauge: 'gauge', uncertainty: 2500, dueDays },
    ...{ story: fall > 20 ? 'failed' : 'evaluated', outsideDiameter: 0.166, rating: 25e5 },
    section: {
      ...{ length: to - from, insideDiameter: 0.15, wall: 0.008, modulus: 22e9 },
      ...{ poisson: 0.3, pipeExpansion: 18e-6, restrained: true },
    },
    ...{ weakest: 'Threaded pipe 150', testPressure: 15e5, required: 12e5, material: 'fibreglass' },
    ...{ parameters: { testPressure: 15e5 }, hours: 2 },
    log: rows(1.9 * 3600, 20, 1.4, shutIn(1500, fall), (t) => 12 + 0.15 * Math.sin(t / 4000)),
  })
  return [
    {
      ...{ number: 'TP-R1', line: 'RC', from: 0, to: 180, method: 'hydro-makeup', gauge: 'gauge' },
      ...{ uncertainty: 2500, dueDays: -8, story: 'signed', outsideDiameter: 0.326, rating: 25e5 },
      section: { length: 180, insideDiameter: 0.3, wall: 0.0076, modulus: 170e9, nominal: 0.3 },
      ...{ weakest: 'Bend 45°', testPressure: 15e5, required: 12e5, material: 'ductile iron' },
      ...{ parameters: { testPressure: 15e5 }, hours: 2.5 },
      log: rows(2.3 * 3600, 30, 1.2, madeUp(1500, 0.14)),
    },
    brine('TP-B1', 0, 260, -6, 46),
    brine('TP-B1.1', 0, 130, -4.5, 3),
    brine('TP-B1.2', 130, 260, -4, 88),
    {
      ...{ ...low, number: 'TP-G1', line: 'GS', from: 400, to: 420, method: 'low-pressure-air' },
      ...{
        dueDays: -2,
        story: 'evaluated',
        section: { length: 20, insideDiameter: 0.6, wall: 0.08, modulus: 30e9 },
      },
      ...{ outsideDiameter: 0.76, weakest: 'Plug DN 600', testPressure: 24e3, material: 'concrete' },
      parameters: { pipes: [{ diameter: 0.6, length: 20 }], groundwater: 0.4 },
      ...{ hours: 0.8, log: rows(40 * 60, 5, 0.03, blownUp(28.4, 0.05)) },
    },
    {
      ...{ ...low, number: 'TP-G2', line: 'GS', from: 420, to: 440, method: 'low-pressure-air' },
      ...{
        dueDays: -1,
        story: 'failed',
        section: { length: 20, insideDiameter: 0.6, wall: 0.08, modulus: 30e9 },
      },
      ...{ outsideDiameter: 0.76, weakest: 'Plug DN 600', testPressure: 24e3, material: 'concrete' },
      parameters: { pipes: [{ diameter: 0.6, length: 20 }], groundwater: 0 },
      ...{ hours: 0.4, log: rows(14 * 60, 5, 0.03, blownUp(27, 1.6)) },
    },
    {
      ...{ ...low, number: 'TP-M1', line: 'GS', from: 158.8, to: 160, method: 'vacuum-manhole' },
      ...{
        dueDays: -3,
        story: 'signed',
        section: { length: 1.2, insideDiameter: 1.2, wall: 0.125, modulus: 30e9 },
      },
      ...{ outsideDiameter: 1.45, weakest: 'Cover frame', testPressure: 24e3, material: 'concrete' },
      parameters: { diameter: 1.2, depth: 2.6 },
      ...{
        hours: 0.2,
        log: rows(6 * 60, 1, 0.05, (t) => ({ pressure: t < 60 ? -0.6 * t : -36 + (t - 60) * 0.008 })),
      },
    },
    {
      ...{ ...low, number: 'TP-W1', line: 'WL', from: 69, to: 71, method: 'casing-air' },
      ...{
        dueDays: -2,
        story: 'evaluated',
        section: { length: 2, insideDiameter: 0.2, wall: 0.025, modulus: 0.9e9 },
      },
      ...{ outsideDiameter: 0.25, weakest: 'Shrink sleeve', testPressure: 20e3, material: 'pre-insulated' },
      parameters: {},
      ...{
        hours: 0.1,
        log: rows(
          200,
          2,
          0.02,
          (t) => ({ pressure: t < 30 ? (20.4 * t) / 30 : 20.4 }),
          () => 21.3,
        ),
      },
    },
    {
      ...{ number: 'TP-S1', line: 'SC', from: 0, to: 40, method: 'pe-three-phase', gauge: 'gauge' },
      ...{ uncertainty: 2500, dueDays: -3, story: 'evaluated', outsideDiameter: 0.063, rating: 16e5 },
      section: { length: 240, insideDiameter: 0.0514, wall: 0.0058, modulus: 900e6 },
      ...{ weakest: 'Pipe PE 63 SDR 11', testPressure: 12e5, required: 10e5, material: 'polyethylene' },
      ...{ parameters: { testPressure: 12e5 }, hours: 2.5 },
      log: rows(146 * 60, 20, 0.9, threePhase(1200, 0.55)),
    },
    {
      ...{ ...low, number: 'TP-G3', line: 'GS', from: 440, to: 460, method: 'exfiltration' },
      ...{ dueDays: -0.6, story: 'evaluated' },
      section: { length: 20, insideDiameter: 0.6, wall: 0.08, modulus: 30e9, nominal: 0.6 },
      ...{ outsideDiameter: 0.76, weakest: 'Plug DN 600', testPressure: 20e3, material: 'concrete' },
      parameters: { rate: 9.3, duration: 7200, head: 2 },
      ...{ hours: 2.2, log: rows(2.05 * 3600, 30, 0.02, seeping(20, 2.1)) },
    },
    {
      ...{ number: 'TP-T1', line: 'TC', from: 0, to: 6, method: 'hose-proof', gauge: 'gauge' },
      ...{ uncertainty: 2500, dueDays: -1.4, story: 'evaluated', outsideDiameter: 0.11, rating: 25e5 },
      section: { length: 6, insideDiameter: 0.1, wall: 0.005, modulus: 1e9 },
      ...{ weakest: 'Hose DN 100', testPressure: 15e5, required: 0, material: 'steel and hose' },
      parameters: { workingPressure: 10e5, movement: 0.0002, leakSeen: false },
      ...{ hours: 0.6, log: rows(28 * 60, 5, 1.1, shutIn(1520, 2)) },
    },
    {
      ...{ number: 'TP-I1', line: 'IP', from: 0, to: 60, method: 'hydro-drop', gauge: 'gauge' },
      ...{ uncertainty: 2500, dueDays: 0.1, story: 'running', outsideDiameter: 0.0483, rating: 40e5 },
      section: {
        ...{ length: 60, insideDiameter: 0.0431, wall: 0.0026, modulus: 200e9 },
        ...{ poisson: 0.3, pipeExpansion: 12e-6, restrained: false },
      },
      ...{ weakest: 'Ring fitting 48.3', testPressure: 15e5, required: 12e5, material: 'steel' },
      ...{ parameters: { testPressure: 15e5 }, hours: 1.05 },
      log: rows(63 * 60, 20, 1.4, shutIn(1500, 3), (t) => 12 + 0.02 * Math.sin(t / 4000)),
    },
    {
      ...{ ...low, number: 'TP-J1', line: 'GS', from: 249, to: 251, method: 'joint-air' },
      ...{
        dueDays: -2,
        story: 'evaluated',
        section: { length: 2, insideDiameter: 0.6, wall: 0.08, modulus: 30e9 },
      },
      ...{ outsideDiameter: 0.76, weakest: 'Seal tester', testPressure: 24e3, material: 'concrete' },
      parameters: {},
      ...{
        hours: 0.1,
        log: rows(60, 0.5, 0.04, (t) => ({ pressure: t < 10 ? 2.6 * t : 26 - (t - 10) * 0.09 })),
      },
    },
  ]
}

const confirmed = ['restraint', 'filled', 'sensor', 'exclusion', 'witness']
const confirmations = (before: number) =>
  confirmed.map((row, i) => ({
    ...{ kind: 'confirmation' as const, step: row, payload: { answer: 'yes' } },
    at: before - HOUR + i * MINUTE,
  }))

/** A test that is on: its readings so far, and what was marked on its trace. */
async function runNow(g: Ground, id: string, p: Planned): Promise<void> {
  const startedAt = g.now - p.hours! * HOUR
  const entries = await write(g, 'pack', id, 'ines', [
    ...confirmations(startedAt),
    { kind: 'start', payload: { open: [], reason: null }, at: startedAt },
    {
      kind: 'event',
      payload: { kind: 'pump-on', at: new Date(startedAt + MINUTE).toISOString() },
      at: startedAt + MINUTE,
    },
    {
      kind: 'event',
      payload: { kind: 'vented', at: new Date(startedAt + 4 * MINUTE).toISOString() },
      at: startedAt + 4 * MINUTE,
    },
  ])
  const { startedAt: began, samples } = readPressureLog(Papa.unparse(p.log!(startedAt)))
  await insertSamples(
    g.db,
    id,
    samples.map(({ t, ...rest }) => ({ at: new Date(began + t * 1000), ...rest })),
  )
  await savePack(g.db, id, projectPack(entries))
}

async function layPack(g: Ground, p: Planned, line: { id: string; profile: never }): Promise<void> {
  const { db, random, now } = g
  const id = random.id(now - 20 * DAY)
  await insertPack(db, g.project.id, {
    ...{ id, alignment: line.id, number: p.number, from: p.from, to: p.to, method: p.method },
    gauge: g.instruments[p.gauge]!,
    dueAt: new Date(now + p.dueDays * DAY),
    design: {
      section: p.section as never,
      ...{ outsideDiameter: p.outsideDiameter, rating: p.rating, weakest: p.weakest },
      ...{ testPressure: p.testPressure, required: p.required, methodMaterial: p.material },
      gaugeElevation: elevationAt(line.profile, p.from),
      parameters: { ...p.parameters, gaugeUncertainty: p.uncertainty } as never,
    },
  })
  if (p.story === 'planned' || !p.log) return
  if (p.story === 'running') return runNow(g, id, p)
  const hours = p.hours ?? 1
  const startedAt = now + p.dueDays * DAY - (hours + 0.2) * HOUR
  const csv = Papa.unparse(p.log(startedAt))
  const bytes = Buffer.from(csv)
  const file = {
    ...{ id: random.id(startedAt), name: `${p.number}-log.csv`, mime: 'text/csv' },
    ...{ sha256: sha256(bytes), bytes },
  }
  await insertFile(db, g.project.id, g.people.ines!.person, file)
  const pack = (await findPack(db, g.project.id, id))!
  const log = readPressureLog(csv)
  const evaluation = evaluateLog(testOf(pack, 'guarded'), log.samples)
  const end = startedAt + hours * HOUR
  let entries = await write(g, 'pack', id, 'ines', [
    ...confirmations(startedAt),
    { kind: 'start', payload: { open: [], reason: null }, at: startedAt },
    {
      kind: 'run',
      payload: {
        ...{ file: file.id, sha256: file.sha256, samples: log.samples.length },
        startedAt: new Date(log.startedAt).toISOString(),
      },
      at: end,
    },
    { kind: 'evaluation', payload: { ...evaluation }, at: end + 1000 },
  ])
  if (p.story === 'signed') {
    const digest = entries.at(-1)!.hash
    const payload = { name: g.people.hale!.name, image: SIGNATURE, digest }
    entries = await write(
      g,
      'pack',
      id,
      'hale',
      [{ kind: 'signature', payload, at: end + 20 * MINUTE }],
      entries,
    )
  }
  await savePack(db, id, projectPack(entries))
  // A part of a pack that is being halved belongs to the report of the whole.
  if (p.story === 'failed' && !p.number.includes('.'))
    await raiseNcr(
      db,
      g.project,
      g.people.ines!,
      { ...{ id: random.id(end), subjectType: 'pack', subject: id, step: null, photo: null } },
      null,
      new Date(end + 20 * MINUTE),
    )
}

/** Tests of the demo, in every state, each method on the line it belongs to. */
export async function layPacks(g: Ground): Promise<void> {
  const lines = new Map((await alignmentsOf(g.db, g.project.id)).map((l) => [l.key, l]))
  for (const p of [...ofMain(), ...ofOthers(g)]) await layPack(g, p, lines.get(p.line)! as never)
}

/** A drawn line as PNG, 1 × 1 would not print: a small made-up scrawl. */
const SIGNATURE = readFileSync(new URL('./signature.txt', import.meta.url), 'utf8').trim()
