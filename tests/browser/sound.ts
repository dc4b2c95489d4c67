import AxeBuilder from '@axe-core/playwright'
import { expect, type Page } from '@playwright/test'

/** Nothing on the page keeps anybody out. */
export const sound = async (page: Page) => {
  // Colours are looked at as they stay, not while they change.
  await page.evaluate(() =>
    Promise.all(
      document
        .getAnimations()
        .filter((a) => Number.isFinite(Number(a.effect?.getComputedTiming().endTime)))
        .map((a) => a.finished.catch(() => null)),
    ),
  )
  const { violations } = await new AxeBuilder({ page }).analyze()
  expect(violations.map((v) => `${v.id}: ${v.nodes[0]?.target.join(' ')}`)).toEqual([])
}
