import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

/** What a device knows of its own clock, between two contacts with the server. */
const HOUR = 3_600_000
let timer = 0
let wall = 0
const clock = async () => {
  vi.resetModules()
  return import('../../app/composables/useNow')
}
/** So much time passes; the clock may be moved besides, the timer of the page may sleep. */
const pass = (ms: number, { moved = 0, slept = 0 } = {}) => {
  wall += ms + moved
  timer += ms - slept
}
let server = 0
const tick = (ms: number, more = {}) => {
  server += ms
  pass(ms, more)
}
beforeEach(() => {
  wall = server = Date.UTC(2026, 4, 4, 6)
  timer = 1000
  vi.spyOn(Date, 'now').mockImplementation(() => wall)
  vi.spyOn(performance, 'now').mockImplementation(() => timer)
})
afterEach(() => void vi.restoreAllMocks())

describe('the clock of a device', () => {
  it('that keeps time was not moved, however long it was away', async () => {
    const { clockThen, hearServerTime, movedSince } = await clock()
    hearServerTime(server)
    tick(5 * HOUR)
    const then = clockThen()
    tick(3 * HOUR)
    hearServerTime(server)
    expect(movedSince(then)).toBe(false)
  })
  it('that slept is not off, and was not moved', async () => {
    const { clockThen, deviceNow, hearServerTime, movedSince } = await clock()
    hearServerTime(server)
    tick(2 * HOUR, { slept: HOUR })
    const then = clockThen()
    hearServerTime(server)
    expect([movedSince(then), deviceNow() - server]).toEqual([false, 0])
  })
  it('that was always two hours wrong is corrected, and was not moved', async () => {
    wall += 2 * HOUR
    const { clockThen, deviceNow, setServerTime, hearServerTime, movedSince } = await clock()
    setServerTime(server)
    tick(HOUR)
    const then = clockThen()
    hearServerTime(server)
    expect([movedSince(then), deviceNow() - server]).toEqual([false, 0])
  })
  it('that is put two hours ahead without a signal is found out at the next contact, and corrected', async () => {
    const { clockThen, deviceNow, hearServerTime, movedSince } = await clock()
    hearServerTime(server)
    tick(600_000, { moved: 2 * HOUR })
    const then = clockThen()
    hearServerTime(server)
    expect([movedSince(then), deviceNow() - server]).toEqual([true, 0])
  })
  it('that is set back shows it at once, by the timer of the page', async () => {
    const { clockThen, hearServerTime, movedSince } = await clock()
    hearServerTime(server)
    tick(HOUR, { moved: -HOUR })
    const then = clockThen()
    expect(then.setBack).toBe(true)
    tick(60_000, { moved: HOUR })
    hearServerTime(server)
    expect(movedSince(then)).toBe(true)
  })
})
