import { expect, test } from '@playwright/test'
import { demoPassword } from '../../demo/people'
import { address, heading, person, step, toJoint, view } from './people'

test('a joint of another system: opened by its facts, then worked by touch alone', async ({ browser }) => {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, hasTouch: true })
  const page = await context.newPage()
  await page.goto(`${address()}/sign-in`)
  await page.getByLabel('Sign-in name').fill('sorrel')
  await page.getByLabel('Password').fill(demoPassword)
  await page.getByRole('button', { name: 'Sign in' }).tap()
  await toJoint(page, 'GS-06')
  await expect(page.getByText('Concrete single offset, profile gasket')).toBeVisible()
  await page.getByLabel('Outside diameter at the spigot').fill('5 bar')
  await page.getByLabel('Depth of the bell').fill('110')
  await page.getByLabel('Largest inside gap').fill('19 mm')
  await page.getByRole('button', { name: 'Open the joint' }).tap()
  await expect(page.getByRole('alert')).toContainText('Outside diameter at the spigot')
  await page.getByLabel('Outside diameter at the spigot').fill('760')
  await page.getByRole('button', { name: 'Open the joint' }).tap()

  const accepted = (title: string) => expect(step(page, title)).toHaveAccessibleName(`${title}: Accepted`)
  for (const title of ['Right parts on site', 'Installer qualified', 'Instruments in date', 'Tools laid out', 'Protected', 'Pipe end sound', 'Clean', 'Stripe toward the spigot end', 'Against the first step']) {
    await expect(heading(page, title)).toBeVisible()
    await page.getByRole('button', { name: 'Yes', exact: true }).tap()
    await accepted(title)
  }
  await page.getByLabel('Turns of the bar').fill('1')
  await page.getByRole('button', { name: 'Record', exact: true }).first().tap()
  await accepted('Equalised')
  await expect(page.getByRole('img', { name: 'Lubricate: bell. Seal: step.' })).toBeVisible()
  await page.getByRole('button', { name: 'On spigot or gasket as well' }).tap()
  await expect(step(page, 'Lubricant on the bell only')).toHaveAccessibleName('Lubricant on the bell only: Rejected')
  await expect(page.getByText(/A lubricated gasket rolls/).first()).toBeVisible()
  await step(page, 'Inside gap').tap()
  const pad = page.getByRole('group', { name: 'Number pad' })
  for (const digits of ['12', '12', '13', '12']) {
    for (const digit of digits) await pad.getByRole('button', { name: digit, exact: true }).tap()
    if (await page.locator('.slots input').last().inputValue() === '') await pad.getByRole('button', { name: 'Next reading' }).tap()
  }
  await expect(page.getByRole('img', { name: /Mean gap 12.25 mm/ })).toBeVisible()
  await page.getByRole('button', { name: 'Record', exact: true }).tap()
  await accepted('Inside gap')
})

test('a result of the bench is carried to a reading', async ({ browser }) => {
  const ines = await person(browser, 'ines')
  await view(ines, 'Bench')
  await ines.getByRole('button', { name: 'Diameter from girth' }).click()
  await ines.getByLabel('girth').fill('1420 mm')
  await ines.getByRole('button', { name: 'Send to a check' }).click()
  await toJoint(ines, 'TC-04')
  await step(ines, 'Outside diameters').click()
  await ines.getByRole('button', { name: /^Use 452 mm|^Use 451\.\d+ mm|^Use 452\.\d+ mm/ }).click()
  await expect(ines.locator('.slots input').first()).toHaveValue(/^45[12]/)
})
