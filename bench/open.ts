import type { Page } from '@playwright/test'
import { Device } from '../tests/browser/device'
import { toJoint } from '../tests/browser/people'
import { startSite } from '../tests/site'

/** A joint opened from the device's slice, without a signal, against the same joint on line: as a person sees it. */
const ROUNDS = 15
const site = startSite(4570)
process.env.VET_LINE_TEST_ADDRESS = site.address
const device = new Device()

/** ms until the sheet of the joint stands. */
async function back(page: Page, number: string, forward: boolean): Promise<number> {
  const start = performance.now()
  await (forward ? page.goForward() : page.goBack())
  await page.getByRole('heading', { level: 2, name: number, exact: true }).waitFor()
  await page.getByRole('heading', { level: 1 }).first().waitFor()
  return performance.now() - start
}
const median = (list: number[]) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)]!

try {
  const page = await device.start()
  await device.signIn('tam')
  await device.takeAlong()
  const [one, two] = ['RM-234', 'RM-238']
  await toJoint(page, one)
  await page.getByRole('heading', { level: 2, name: one }).waitFor()
  await toJoint(page, two)
  await page.getByRole('heading', { level: 2, name: two }).waitFor()
  const times = { on: [] as number[], off: [] as number[] }
  for (let round = 0; round < ROUNDS; round++)
    for (const where of ['on', 'off'] as const) {
      await device.context.setOffline(where === 'off')
      times[where].push(await back(page, one, false), await back(page, two, true))
    }
  const [on, off] = [median(times.on), median(times.off)]
  console.log(`a joint on line            ${on.toFixed(0)} ms`)
  console.log(
    `the same from the slice    ${off.toFixed(0)} ms: ${(off / on).toFixed(2)} × (asked: at most 1.5)`,
  )
} finally {
  await device.end()
  site.stop()
}
