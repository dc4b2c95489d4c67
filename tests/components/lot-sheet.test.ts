import { config, flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import { setActivePinia, type Pinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import LotSheet from '../../app/components/delivery/LotSheet.vue'
import { useSession } from '../../app/stores/session'

const sheetOf = (id: string) => ({
  lot: {
    ...{ id, lot: `CE-${id}`, title: 'Cement', item: 'C-1', gtin: null, shelfMonths: 24, openedDays: null },
    ...{ made: '2026-01-05', expires: '2027-01-05', opened: null, quarantinedAt: null, reason: null },
    ...{ shelf: 'good', end: { at: Date.UTC(2027, 0, 5, 23), why: 'printed expiry' } },
  },
  ...{ counts: { accepted: 12 }, entries: [], people: {} },
})
/** Lots that were asked for and are still on their way. */
const waiting = new Map<string, () => void>()
const asked: string[] = []
const sent: { path: string; body: unknown }[] = []
let page: VueWrapper

beforeEach(async () => {
  setActivePinia(config.global.plugins[1] as Pinia)
  const session = useSession()
  session.projectKey = 'site'
  session.projects = [{ key: 'site', name: 'Site', roles: ['inspector'] }]
  waiting.clear()
  asked.length = 0
  sent.length = 0
  vi.stubGlobal('fetch', (url: string, init?: RequestInit) => {
    const [, id, act] = /lots\/(\w+)(\/\w+)?$/.exec(url) ?? []
    if (act) {
      sent.push({ path: `${id}${act}`, body: JSON.parse(String(init?.body)) })
      return Promise.resolve(new Response(JSON.stringify({ judgedAnew: 3, state: 'done' })))
    }
    asked.push(id!)
    return new Promise((answer) => waiting.set(id!, () => answer(new Response(JSON.stringify(sheetOf(id!))))))
  })
  page = mount(LotSheet, { props: { lotId: '1' } })
  await arrives('1')
  await vi.waitUntil(() => title() === 'CE-1' && page.find('form button').exists())
})
afterEach(() => {
  page.unmount()
  vi.unstubAllGlobals()
})
async function arrives(id: string) {
  await vi.waitUntil(() => waiting.has(id))
  waiting.get(id)!()
  waiting.delete(id)
  await flushPromises()
}
const title = () => page.find('h2').exists() && page.find('h2').text()
const enter = () => page.find('form button')
const produced = async (day: string) => {
  await vi.waitUntil(() => page.find('form input').exists())
  const field = page.find('form input')
  await field.setValue(day)
  await field.trigger('change')
}

describe('one lot', () => {
  it('says its age and what it is by', () => {
    expect(page.find('.state').text()).toMatch(/^Good until 5 Jan 2027\s*printed expiry$/)
  })
  it('takes dates once one of them is another, and says what was judged anew', async () => {
    expect(enter().attributes('disabled')).toBeDefined()
    await produced('3 Jan 2026')
    await vi.waitUntil(() => enter().attributes('disabled') === undefined)
    await page.find('form').trigger('submit')
    await arrives('1')
    expect(sent).toEqual([
      { path: '1/dates', body: { made: '2026-01-03', expires: '2027-01-05', opened: null } },
    ])
    expect(page.find('[role=status]').text()).toBe('Entered. 3 joints were judged anew.')
    expect(page.emitted('changed')).toHaveLength(1)
  })
  it('while another is on its way, what is done is done to the one that is shown', async () => {
    await produced('3 Jan 2026')
    await page.setProps({ lotId: '2' })
    expect(title()).toBe('CE-1')
    await page.find('form').trigger('submit')
    await vi.waitUntil(() => sent.length > 0)
    expect(sent[0]!.path).toBe('1/dates')
    // Asked for as the one that is chosen, and again as what was done is.
    await vi.waitUntil(() => asked.filter((id) => id === '2').length === 2)
    await arrives('2')
    await vi.waitUntil(() => title() === 'CE-2')
    expect(page.find('[role=status]').exists()).toBe(false)
  })
  it('of another lot, nothing said of the one before is left', async () => {
    await produced('3 Jan 2026')
    await page.find('form').trigger('submit')
    await arrives('1')
    await page.setProps({ lotId: '2' })
    await arrives('2')
    await vi.waitUntil(() => title() === 'CE-2')
    expect(page.find('[role=status]').exists()).toBe(false)
  })
})
