import { config, flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import { setActivePinia, type Pinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import Shift from '../../app/pages/crews/[id]/shift.vue'
import type { ShiftPage } from '../../core/crew/shift-signing'
import { useSession } from '../../app/stores/session'
import { useRoute } from './nuxt'

const DAYS = ['2026-03-10', '2026-03-09']
const pageOf = (day: string): ShiftPage => ({
  report: {
    crew: { id: '1', name: 'Crew Moor' },
    day,
    work: [
      ...[{ id: 'a', name: 'TF-1', of: 'joint' as const, procedure: 'Electrofusion', state: 'in-work' }],
    ].map((w) => ({ ...w, right: null, faults: [], answers: 3, lifts: 0 })),
    stands: [],
    standing: { release: 0, ncr: 0, material: 0, weather: 0, other: 0 },
    ...{ lots: [], ncrs: [], photos: 0, late: 0 },
  },
  digest: `digest of ${day}`,
  ...{ state: 'open', signed: { lead: null, inspector: null }, moved: false },
  until: Date.UTC(2026, 2, 10, 12),
})
/** Reports that were asked for and are still on their way. */
const waiting = new Map<string, () => void>()
let page: VueWrapper

beforeEach(() => {
  setActivePinia(config.global.plugins[1] as Pinia)
  vi.stubGlobal('definePageMeta', () => undefined)
  waiting.clear()
  Object.assign(useRoute(), { params: { id: '1' }, query: { day: DAYS[0] } })
  const session = useSession()
  session.projectKey = 'site'
  session.projects = [{ key: 'site', name: 'Site', roles: ['crew-lead'] }]
  vi.stubGlobal('fetch', (url: string) => {
    const day = /shifts\/(.*)$/.exec(url)?.[1]
    if (!day)
      return Promise.resolve(new Response(JSON.stringify(DAYS.map((d) => ({ day: d, state: 'open' })))))
    return new Promise((answer) => waiting.set(day, () => answer(new Response(JSON.stringify(pageOf(day))))))
  })
  page = mount(Shift)
})
afterEach(() => {
  page.unmount()
  vi.unstubAllGlobals()
})
async function arrives(day: string) {
  await vi.waitUntil(() => waiting.has(day))
  waiting.get(day)!()
  await flushPromises()
}
const heading = () => page.find('h1').exists() && page.find('h1').text()
const sign = () => page.findAll('button').find((b) => b.text() === 'Sign the day')

describe('the report of a day', () => {
  it('is shown when it has come, and may be signed', async () => {
    expect(heading()).toBe(false)
    await arrives(DAYS[0]!)
    await vi.waitUntil(() => sign())
    expect(heading()).toMatch(/^Crew Moor, 10 /)
  })
  it('of another day is never the one before: nothing is there to sign until it has come', async () => {
    await arrives(DAYS[0]!)
    await vi.waitUntil(() => sign())
    await page.findAll('.days button')[1]!.trigger('click')
    await flushPromises()
    expect([heading(), sign()]).toEqual([false, undefined])
    await arrives(DAYS[1]!)
    await vi.waitUntil(() => sign())
    expect(heading()).toMatch(/^Crew Moor, 9 /)
  })
})
