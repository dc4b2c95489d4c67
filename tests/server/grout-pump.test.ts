import { afterAll, beforeAll, expect, inject, it } from 'vitest'
import type { Knex } from 'knex'
import { demoPassword } from '../../demo/people'
import { GroutPump } from '../../devices/grout-pump'
import { casingByName, writeLog } from '../../devices/pump'
import { signIn } from '../../devices/site'
import type { reachSheet } from '../../server/services/worksheet'
import { base, Client } from './client'
import { asApplication } from './connect'

/** A grout pump writes the log of a casing while it pumps, and is judged as it goes. */
const CASING = 'RC casing 2'
let db: Knex
let cookie: string
beforeAll(async () => {
  db = asApplication(inject('data'))
  cookie = await signIn(inject('address'), 'milo', demoPassword)
})
afterAll(() => db.destroy())
const casing = () => casingByName(inject('address'), 'skerry-head', CASING, cookie)

it('is refused for a reach that there is not, or that is not grouted', async () => {
  const named = (name: string) => casingByName(inject('address'), 'skerry-head', name, cookie)
  await expect(named('RC casing 99')).rejects.toThrow('There is no reach RC casing 99.')
  await expect(named('SO reach 01')).rejects.toThrow(/no reach|not grouted/)
})

it('writes one log in several entries; over what the pipe bears the step is rejected for it', async () => {
  const { place, room } = await casing()
  const milo = await new Client(inject('address')).signIn('milo')
  const state = async () => {
    const row = await db('reaches').where({ id: place.reach }).first('state')
    return row.state as string
  }
  const pump = new GroutPump({ room, base: 6e3, head: 15e3 }, 'careful')
  expect(await writeLog(place, [pump.run(60), pump.run(60)], cookie)).toBeNull()
  expect(await writeLog(place, [pump.run(60)], cookie)).toBeNull()
  const sheet = (await milo.get(`${base}/reaches/${place.reach}`)).body as Awaited<
    ReturnType<typeof reachSheet>
  >
  const log = sheet.entries.filter((e) => e.kind === 'grout')
  expect(log.flatMap((e) => (e.payload.rows as { t: number }[]).map((r) => r.t))).toEqual([60, 120, 180])
  expect(await state()).toBe('in-work')
  expect(await writeLog(place, [{ t: 240, pressure: 900e3, volume: 1 }], cookie)).toBeNull()
  expect(await state()).toBe('rejected')
})

it('what the site does not take is told in its words', async () => {
  const { place } = await casing()
  expect(await writeLog(place, [{ t: 0, pressure: 1, volume: -1 }], cookie)).toMatch(/volume/)
  expect(
    await writeLog({ ...place, step: 'nowhere' }, [{ t: 0, pressure: 1, volume: 0 }], cookie),
  ).toBeTruthy()
})
