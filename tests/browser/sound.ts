import AxeBuilder from '@axe-core/playwright'
import { expect, type Page } from '@playwright/test'

/** Axe for a page without frames: what holds is not told, and no page is opened to gather what is found. */
export const axe = (page: Page) =>
  new AxeBuilder({ page }).options({ resultTypes: ['violations'] }).setLegacyMode()

/** Waits until nothing moves or changes its colour any more, but for what never ends. */
export const settled = (page: Page) =>
  page.evaluate(() =>
    Promise.all(
      document
        .getAnimations()
        .filter((a) => Number.isFinite(Number(a.effect?.getComputedTiming().endTime)))
        .map((a) => a.finished.catch(() => null)),
    ),
  )

/** Nothing on the page, or in a part of it, keeps anybody out. */
export const sound = async (page: Page, part = 'html') => {
  // Colours are looked at as they stay, not while they change.
  await settled(page)
  // The head of a dialog is a header element, which by itself is none of the page.
  const not = part === 'html' ? [] : ['landmark-no-duplicate-banner']
  const { violations } = await axe(page).include(part).disableRules(not).analyze()
  expect(violations.map((v) => `${v.id}: ${v.nodes[0]?.target.join(' ')}`)).toEqual([])
}
