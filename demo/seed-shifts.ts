import { readFileSync } from 'node:fs'
import { DateTime } from 'luxon'
import { insertQualifications } from '../server/db/qualifications'
import { lockProject, saveSettings } from '../server/db/projects'
import { shiftDays, shiftPage, signShift } from '../server/services/shift-reports'
import { crewNames, demoPeople } from './people'
import { DAY, type Ground } from './ground'

const SIGNATURE = readFileSync(new URL('./signature.txt', import.meta.url), 'utf8').trim()
const weather = [
  'Dry, 11 °C',
  'Showers, 9 °C, wind',
  'Dry, 8 °C, fog until ten',
  'Rain from noon, 7 °C',
  'Dry, 12 °C',
]
const words: Record<string, string> = {
  'Crew Harbour': 'Clamps of the second set slip: change them.',
  'Crew Quay': 'New in the crew: two of four.',
}

/** Two weeks of shift reports: signed by both sides, but for the last of each crew and one that waits. */
async function signDays(g: Ground): Promise<void> {
  const ines = g.people.ines!
  const last = DateTime.fromMillis(g.now, { zone: g.project.zone }).toISODate()!
  for (const [i, crew] of g.crews.entries()) {
    const lead = g.people[demoPeople.find((p) => p.crew === crewNames[i])!.signIn]!
    const days = (await shiftDays(g.db, g.project, ines, crew, g.now)).filter((d) => d.day < last)
    for (const [n, { day }] of days.entries()) {
      if (n === 0) continue
      // Nothing more is recorded on a day half an hour before it ends.
      const at = DateTime.fromISO(day, { zone: g.project.zone }).endOf('day').toMillis() + 1
      const { report, digest, until } = await shiftPage(g.db, g.project, ines, crew, day, at)
      if (report.work.length === 0) continue
      const said = {
        weather: weather[n % weather.length]!,
        rain: n % weather.length === 2,
        words: n === 2 ? (words[crewNames[i]!] ?? '') : '',
      }
      const signing = { report: digest, until, image: SIGNATURE, ...said }
      await signShift(g.db, g.project, lead, crew, day, signing, at)
      if (n > 1) await signShift(g.db, g.project, ines, crew, day, signing, at + 60_000)
    }
  }
}

const PROCEDURE = 'pe-electrofusion-socket'
/** what Crew Dunes makes though the qualification of its lead ran out */
const EXPIRED = 'pe-corrugated-gasket'

/** Who is qualified for what: one ran out last month, one runs out soon, and the plan says when it lacks. */
async function register(g: Ground): Promise<void> {
  const day = (offset: number) => new Date(g.now + offset * DAY).toISOString().slice(0, 10)
  const rows: [signIn: string, procedure: string, since: number, until: number | null][] = [
    ['tam', PROCEDURE, -300, 430],
    ['rhona', PROCEDURE, -715, 16],
    ['sorrel', PROCEDURE, -300, 430],
    ['sorrel', EXPIRED, -760, -31],
    ['milo', 'di-restrained-gripper', -20, 345],
    ['sorrel', 'embed-flexible', -120, null],
    ['milo', 'frp-threaded', -90, 275],
  ]
  await insertQualifications(
    g.db,
    g.project.id,
    rows.map(([signIn, procedure, since, until]) => ({
      ...{ id: g.random.id(g.now - 30 * DAY), person: g.people[signIn]!.person, procedure },
      ...{ since: day(since), until: until === null ? null : day(until), by: 'Instructor of the maker' },
    })),
  )
  const { settings } = await lockProject(g.db, g.project.id)
  await saveSettings(g.db, g.project.id, {
    ...settings,
    qualify: { ...settings.qualify, [PROCEDURE]: 'say', [EXPIRED]: 'say' },
  })
}

export async function layShifts(g: Ground): Promise<void> {
  await register(g)
  await signDays(g)
}
