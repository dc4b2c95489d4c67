import type { Request } from '@playwright/test'
import { address, person, toJoint } from './people'
import { expect, test } from './test'

/** So long a view is left alone. */
const SECONDS = 20
/** What comes due in that time is asked for: no view of the demo has so much of it. */
const DUE = 3

const OF_INES = [
  '/',
  '/round',
  '/line',
  '/clocks',
  '/crews',
  '/deliveries',
  '/deliveries/yard',
  '/embedment',
  '/tests',
  '/ncrs',
  '/procedures/plan?procedure=rc-sealant',
]
const views: Record<string, string[]> = { ines: OF_INES, tam: ['/', '/crews'], hale: ['/', '/tests'] }

for (const [name, paths] of Object.entries(views))
  test(`while nobody does anything, no view of ${name} asks again and again`, async ({ browser }) => {
    const page = await person(browser, name, async (p) => {
      await p.clock.install()
      // What others do in the meantime is told by the feed, and asks for what changed.
      await p.route('**/feed', () => undefined)
    })
    const ofServer = (r: Request) => /\/api\/(?!.*\/feed$)/.test(r.url())
    const asked: string[] = []
    const waiting = new Set<Request>()
    let path = ''
    page.on('request', (r) => {
      if (!ofServer(r)) return
      waiting.add(r)
      asked.push(`${path}: ${r.method()} ${new URL(r.url()).pathname}`)
    })
    for (const end of ['requestfinished', 'requestfailed'] as const)
      page.on(end as 'requestfinished', (r) => void waiting.delete(r))
    const rest = async () => {
      await expect(page.getByRole('main')).not.toBeEmpty()
      await expect(page.getByText('Loading …')).toHaveCount(0)
      await expect.poll(() => waiting.size).toBe(0)
      asked.length = 0
      await page.clock.runFor(SECONDS * 1000)
      expect(asked.filter((a) => asked.filter((b) => a === b).length > DUE)).toEqual([])
    }
    for (path of paths) {
      await page.goto(address() + path)
      await rest()
    }
    if (name !== 'ines') return
    path = 'a joint with a clock that runs'
    await toJoint(page, 'RM-233')
    await expect(page.getByRole('timer').first()).toBeVisible()
    await rest()
  })
