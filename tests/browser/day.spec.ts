import AxeBuilder from '@axe-core/playwright'
import type { Page } from '@playwright/test'
import { address, choose, heading, person, step, view } from './people'
import { expect, test } from './test'

/** What each day asks of whom: the round, the crews, the plan, the witness, the tests. */
const sound = async (page: Page) => {
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

test('the round says where to go first, goes elsewhere when asked, and begins again where I am', async ({
  browser,
}) => {
  const ines = await person(browser, 'ines')
  await ines.getByRole('link', { name: 'Round', exact: true }).click()
  const visits = ines.locator('.visits li')
  await expect(visits.nth(2)).toBeVisible()
  await expect(ines.getByRole('img', { name: /^The round over \d lines?$/ })).toBeVisible()
  const second = await visits.nth(1).locator('.what strong').innerText()
  const count = await visits.count()
  await visits.nth(1).getByRole('button', { name: 'Go here first' }).click()
  await expect(visits.first().locator('.what strong')).toHaveText(second)
  await expect(visits.first().getByRole('button', { name: 'Pinned first' })).toBeVisible()
  await visits.first().getByRole('button', { name: 'I am here' }).click()
  await expect(visits.first().locator('.when strong')).toHaveText('now')
  await visits.first().getByRole('button', { name: 'Leave out' }).click()
  await expect(visits).toHaveCount(count - 1)
  await ines.getByRole('button', { name: /take in again/ }).click()
  await expect(visits).toHaveCount(count)
  await sound(ines)
})

test('a crew shows how it works, and a lead sees the own one', async ({ browser }) => {
  const ines = await person(browser, 'ines')
  await ines.getByRole('link', { name: 'Crews', exact: true }).click()
  await expect(ines.locator('.crew')).toHaveCount(4)
  await sound(ines)
  await ines.locator('.crew', { hasText: 'Crew North' }).click()
  await expect(heading(ines, 'Crew North')).toBeVisible()
  await expect(ines.getByRole('img', { name: /Right at the first try in four weeks: \d+ %/ })).toBeVisible()
  await expect(ines.getByText(/joint by joint/)).toBeVisible()
  await sound(ines)
  const tam = await person(browser, 'tam')
  await expect(tam.getByRole('heading', { name: 'You wait for' })).toBeVisible()
  await tam.getByRole('link', { name: 'Crews', exact: true }).click()
  await expect(tam.locator('.crew')).toHaveCount(1)
})

test('the plan is changed by two engineers, and counts from then on', async ({ browser }) => {
  const [petra, juno] = [await person(browser, 'petra'), await person(browser, 'juno')]
  const at = `${address()}/procedures/plan?procedure=rc-sealant`
  await petra.goto(at)
  const cell = petra.locator('.matrix button.cell').nth(1)
  const name = (await cell.getAttribute('aria-label'))!
  await cell.click()
  const dialog = petra.getByRole('dialog')
  await dialog.getByText('Witness point', { exact: true }).click()
  await dialog.getByLabel('Why?').fill('The client wants to see the first of each day.')
  await sound(petra)
  await dialog.getByRole('button', { name: 'Put before a second engineer' }).click()
  await expect(dialog).toBeHidden()
  const change = (page: Page) => page.locator('.change', { hasText: 'The client wants to see the first' })
  await expect(change(petra)).toBeVisible()
  await expect(change(petra).getByRole('button')).toHaveCount(0)
  await juno.goto(at)
  await change(juno).getByRole('button', { name: 'Take into the plan' }).click()
  await expect(change(juno)).toBeHidden()
  await expect(juno.getByLabel(name.replace(/: .*/, ': Witness point'))).toBeVisible()
  await sound(juno)
})

test('a witness finds the invitation, and was there', async ({ browser }) => {
  const hale = await person(browser, 'hale')
  await hale.getByRole('link', { name: /Hand-tight, looked at/ }).click()
  await expect(heading(hale, 'Hand-tight, looked at')).toBeVisible()
  const point = hale.getByRole('region', { name: 'Witness point' })
  await expect(point).toContainText('The witness will come.')
  await point.getByRole('button', { name: 'I was there' }).click()
  await expect(point).toContainText('The witness was there.')
  await view(hale, 'Today')
  await expect(hale.getByRole('heading', { name: 'In the next two hours' })).toBeVisible()
  await expect(hale.getByRole('link', { name: /Hand-tight, looked at/ })).toHaveCount(0)
})

test('nonconformances are counted by step, crew, procedure and cause', async ({ browser }) => {
  const petra = await person(browser, 'petra')
  await view(petra, 'NCRs')
  await petra.getByRole('link', { name: 'What they come to' }).click()
  await expect(petra.getByRole('table', { name: 'Reports by step' })).toBeVisible()
  await petra.getByText('Cause', { exact: true }).click()
  await expect(petra.getByRole('rowheader', { name: 'Preparation' })).toBeVisible()
  await expect(petra).toHaveURL(/by=cause/)
  await sound(petra)
})

test('a failed pack is halved', async ({ browser }) => {
  const petra = await person(browser, 'petra')
  await view(petra, 'Tests')
  await petra.getByRole('link', { name: 'TP-B1', exact: true }).click()
  const leak = petra.getByRole('region', { name: 'Down to the leak' })
  await expect(leak.getByRole('img', { name: /3 joints are still suspect/ })).toBeVisible()
  await expect(petra.getByText('Falls as if so much was lost')).toBeVisible()
  await leak.getByRole('button', { name: 'Plan the two halves' }).click()
  await expect(leak.getByRole('link', { name: 'TP-B1.4' })).toBeVisible()
  await expect(leak).toContainText('A half is planned')
  await sound(petra)
})

test('a pack is laid out by keys, seen beside two, and planned', async ({ browser }) => {
  const petra = await person(browser, 'petra')
  await view(petra, 'Tests')
  await petra.getByRole('link', { name: 'Lay out' }).click()
  const end = petra.getByRole('slider', { name: 'End of the pack' })
  await expect(end).toBeVisible()
  const before = Number(await end.getAttribute('aria-valuenow'))
  await end.focus()
  await end.press('PageDown')
  await expect(end).toHaveAttribute('aria-valuenow', String(before - 10))
  await expect(petra.getByText('Least leak the gauge could show')).toBeVisible()
  await petra.getByRole('button', { name: 'Set two packs beside one' }).click()
  await expect(petra.locator('.alternatives section')).toHaveCount(2)
  await sound(petra)
  await petra.getByRole('button', { name: 'One pack again' }).click()
  await petra.getByLabel('Number', { exact: true }).fill('TP-90')
  await petra.getByLabel('Weakest component', { exact: true }).fill('Pipe PE 315')
  await choose(petra, 'Method', 'Polyethylene, by expansion')
  await petra.getByRole('button', { name: 'Plan the pack' }).click()
  await expect(petra.getByRole('link', { name: 'TP-90', exact: true })).toBeVisible()
})

test('a reach is filled lift by lift, and says what may run over it', async ({ browser }) => {
  const sorrel = await person(browser, 'sorrel')
  await view(sorrel, 'Embedment')
  await sorrel.getByRole('link', { name: /SO reach 07/ }).click()
  await expect(heading(sorrel, 'Lifts beside and over the pipe')).toBeVisible()
  const plants = sorrel.getByRole('list', { name: 'What may run over the pipe now' })
  await expect(plants).toContainText('657 mm of cover more')
  const trench = sorrel.getByRole('img', { name: /Fill 876 mm left, 663 mm right/ })
  await expect(trench).toBeVisible()
  await sorrel.getByLabel('Loose thickness, mm').fill('250')
  await expect(sorrel.getByText('becomes')).toContainText('213 mm')
  await sorrel.getByRole('spinbutton', { name: 'Passes' }).fill('4')
  await sorrel.getByText('Damp', { exact: true }).click()
  await sorrel.getByRole('radiogroup', { name: 'Tamped under the haunch' }).getByText('Yes').click()
  await sorrel.getByRole('button', { name: 'Record', exact: true }).click()
  await expect(sorrel.getByRole('img', { name: /Fill 876 mm left, 876 mm right/ })).toBeVisible()
  await expect(plants).toContainText('445 mm of cover more')
  await step(sorrel, 'Struts out').click()
  await sorrel.getByRole('button', { name: 'Yes', exact: true }).click()
  await expect(step(sorrel, 'Struts out')).toHaveAccessibleName('Struts out: Accepted')
  await sorrel.getByText('Levels', { exact: true }).click()
  await expect(sorrel.getByRole('img', { name: /^Inverts of 3 pipes against design/ })).toBeVisible()
  await sound(sorrel)
})
