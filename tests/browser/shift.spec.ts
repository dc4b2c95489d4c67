import type { Page } from '@playwright/test'
import { address, choose, drawSignature, person, signOff, toJoint, view } from './people'
import { expect, test } from './test'

/** The report of the crew's last day that nobody has signed. */
async function openDay(page: Page, crew: string) {
  await view(page, 'Today')
  await page.getByRole('link', { name: 'Crews' }).click()
  // Today names crews too.
  await expect(page).toHaveURL(/\/crews$/)
  await page.getByRole('link', { name: crew }).first().click()
  await page.getByRole('link', { name: 'Shift report' }).click()
  await page
    .getByRole('group', { name: 'Days' })
    .getByRole('button', { name: /not signed$/ })
    .last()
    .click()
}

test('a day is signed by the crew lead, then by the inspector', async ({ browser }) => {
  const milo = await person(browser, 'milo')
  await openDay(milo, 'Crew Quay')
  await expect(milo.getByRole('region', { name: 'Work' }).getByRole('row').nth(1)).toBeVisible()
  await milo.getByRole('button', { name: 'Sign the day' }).click()
  await milo.getByLabel('Weather').fill('Dry, 9 °C')
  await drawSignature(milo)
  await signOff(milo, 'Sign')
  await expect(milo.getByText(/signed by the crew$/)).toBeVisible()
  await expect(milo.getByRole('button', { name: 'Sign the day' })).toHaveCount(0)

  const day = new URL(milo.url()).searchParams.get('day')!
  const ines = await person(browser, 'ines')
  await ines.goto(milo.url())
  await expect(ines.getByText('Dry, 9 °C')).toBeVisible()
  await ines.getByRole('button', { name: 'Sign the day' }).click()
  await drawSignature(ines)
  await signOff(ines, 'Sign')
  await expect(ines.getByText(/signed by both$/)).toBeVisible()
  await expect(ines.getByRole('region', { name: 'Signed' })).toContainText('Milo Penraketh')
  expect(day).toMatch(/^\d{4}-\d\d-\d\d$/)
})

test('who is not qualified gives no answer; put into the register, he does', async ({ browser }) => {
  const petra = await person(browser, 'petra')
  const plan = async (word: string) => {
    await view(petra, 'Procedures')
    await petra.getByRole('link', { name: 'Inspection plan' }).click()
    await petra
      .getByRole('navigation', { name: 'Procedures in use' })
      .getByRole('button', { name: /^Steel small-bore, axially swaged/ })
      .click()
    await choose(petra, 'Qualification of the crew lead', word)
    await petra.getByLabel('Why').fill('The maker asks for it.')
    await petra.getByRole('button', { name: 'Change it' }).click()
    await expect(petra.getByRole('dialog', { name: 'Qualification of the crew lead' })).toBeHidden()
  }
  await plan('is needed for an answer')
  const milo = await person(browser, 'milo')
  await toJoint(milo, 'IP-03')
  await expect(milo.getByText(/^You have no qualification for/)).toBeVisible()
  await expect(milo.getByText('The plan takes no answer without it.')).toBeVisible()

  const admin = await person(browser, 'admin')
  await admin.goto(`${address()}/setup/lists/qualifications`)
  await admin.getByRole('button', { name: /^Add/ }).first().click()
  await choose(admin, 'Sign-in name', 'milo')
  await choose(admin, 'Procedure', 'steel-axial-swage')
  await admin.getByLabel('Since').fill('2026-01-05')
  await admin.getByLabel('Given by').fill('Instructor of the maker')
  await admin.getByRole('button', { name: /^Add/ }).last().click()
  await expect(admin.getByText('steel-axial-swage').first()).toBeVisible()

  await milo.reload()
  await expect(milo.getByRole('navigation', { name: 'Steps' })).toBeVisible()
  await expect(milo.getByText(/^You have no qualification for/)).toHaveCount(0)
  await plan('is not asked for')
})
