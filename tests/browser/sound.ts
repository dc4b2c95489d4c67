import AxeBuilder from '@axe-core/playwright'
import { expect, type Page } from '@playwright/test'

/** Nothing on the page, or in a part of it, keeps anybody out. */
export const sound = async (page: Page, part = 'html') => {
  // Colours are looked at as they stay, not while they change.
  await page.evaluate(() =>
    Promise.all(
      document
        .getAnimations()
        .filter((a) => Number.isFinite(Number(a.effect?.getComputedTiming().endTime)))
        .map((a) => a.finished.catch(() => null)),
    ),
  )
  // The head of a dialog is a header element, which by itself is none of the page.
  const not = part === 'html' ? [] : ['landmark-no-duplicate-banner']
  const { violations } = await new AxeBuilder({ page }).include(part).disableRules(not).analyze()
  expect(violations.map((v) => `${v.id}: ${v.nodes[0]?.target.join(' ')}`)).toEqual([])
}
