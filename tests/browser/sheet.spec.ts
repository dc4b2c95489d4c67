import type { Page } from '@playwright/test'
import { atStep, heading, person, sayWhyAgain, step } from './people'
import { expect, test } from './test'

const slots = (page: Page) => page.locator('.slots input')
const primary = (page: Page) => page.locator('.bar').getByRole('button').last()

/** Holds entries back on their way to the server until it is opened. */
async function slowLine(page: Page) {
  let open = () => {}
  const opened = new Promise<void>((done) => (open = done))
  const requests: { step: string | null }[][] = []
  await page.route('**/entries', async (route) => {
    requests.push((route.request().postDataJSON() as { entries: { step: string | null }[] }).entries)
    await opened
    await route.continue()
  })
  return { open, requests }
}

test('readings typed are kept while another step is looked at, and are never recorded there', async ({
  browser,
}) => {
  const page = await person(browser, 'ines')
  await atStep(page, 'TC-06', 'Setting gap')
  await expect(slots(page)).toHaveCount(4)
  for (const [i, text] of ['25', '1 in', '25.5'].entries()) await slots(page).nth(i).fill(text)
  await step(page, 'Outside diameters').click()
  await expect(slots(page)).toHaveCount(2)
  await expect(slots(page).first()).toHaveValue('')
  await step(page, 'Setting gap').click()
  await expect(slots(page).nth(1)).toHaveValue('1 in')
  await expect(slots(page).nth(2)).toHaveValue('25.5')
  // The first empty place waits for the next number.
  await expect(slots(page).nth(3)).toBeFocused()
  await page.keyboard.type('26')
  await expect(primary(page)).toHaveText('Record')
  await step(page, 'Outside diameters').click()
  await expect(primary(page)).not.toHaveText('Record')
  await step(page, 'Setting gap').click()
  await expect(primary(page)).toHaveText('Record')
})

test('on a slow line answers go on at once, are sent together in order, and nothing typed meanwhile is lost', async ({
  browser,
}) => {
  const page = await person(browser, 'ines')
  await atStep(page, 'TC-06', 'Right parts on site')
  const { open, requests } = await slowLine(page)
  for (const title of [
    'Right parts on site',
    'Installer qualified',
    'Instruments in date',
    'Tools laid out',
  ]) {
    await expect(heading(page, title)).toBeVisible()
    await page.keyboard.press('y')
  }
  await expect(heading(page, 'Protected')).toBeVisible()
  await expect(step(page, 'Tools laid out')).toHaveAccessibleName('Tools laid out: Accepted')
  await step(page, 'Outside diameters').click()
  await slots(page).first().fill('452')
  const acknowledged = page.waitForResponse(
    (r) => r.url().endsWith('/entries') && (r.request().postData() ?? '').includes('"tools"'),
  )
  open()
  expect((await acknowledged).status()).toBe(200)
  await expect
    .poll(() => requests.map((r) => r.map((e) => e.step)))
    .toEqual([['right-parts'], ['installer', 'instruments', 'tools']])
  await expect(heading(page, 'Outside diameters')).toBeVisible()
  await expect(slots(page).first()).toHaveValue('452')
  await page.reload()
  await expect(step(page, 'Tools laid out')).toHaveAccessibleName('Tools laid out: Accepted')
})

test('what the server refuses is taken back, and the person is brought back to it with the reason', async ({
  browser,
}) => {
  const page = await person(browser, 'ines')
  await atStep(page, 'TC-06', 'Protected')
  await page.route('**/entries', (route) =>
    route.fulfill({
      status: 422,
      contentType: 'application/json',
      body: JSON.stringify({
        data: {
          code: 'future',
          message: 'This entry is dated in the future: set the clock of the device.',
          field: 'recordedAt',
        },
      }),
    }),
  )
  await page.getByRole('button', { name: 'Yes', exact: true }).click()
  await expect(page.getByText('set the clock of the device')).toBeVisible()
  await expect(heading(page, 'Protected')).toBeVisible()
  await expect(step(page, 'Protected')).toHaveAccessibleName('Protected: Not started')
})

test('after g a letter goes to a view and answers nothing', async ({ browser }) => {
  const page = await person(browser, 'ines')
  await atStep(page, 'TC-06', 'Protected')
  await page.keyboard.press('g')
  await page.keyboard.press('n')
  await expect(page).toHaveURL(/\/ncrs$/)
  await page.goBack()
  await expect(step(page, 'Protected')).toHaveAccessibleName('Protected: Not started')
})

test('the next reading is typed while the last is on its way; a refused one comes back to its place', async ({
  browser,
}) => {
  const page = await person(browser, 'ines')
  await atStep(page, 'TC-06', 'Outside diameters')
  await expect(slots(page)).toHaveCount(2)
  const { open } = await slowLine(page)
  await slots(page).nth(0).fill('452')
  await slots(page).nth(1).fill('470')
  await primary(page).click()
  await expect(step(page, 'Outside diameters')).toHaveAccessibleName('Outside diameters: Rejected')
  await expect(slots(page).nth(0)).toHaveValue('')
  await slots(page).nth(0).fill('451')
  const acknowledged = page.waitForResponse(
    (r) => r.url().includes('/joints/') && r.request().method() === 'GET',
  )
  open()
  await acknowledged
  await expect(slots(page).nth(0)).toHaveValue('451')
  await slots(page).nth(1).fill('452')
  await page.unroute('**/entries')
  await page.route('**/entries', (route) => route.abort())
  await primary(page).click()
  await sayWhyAgain(page, 'The tape was twisted.')
  await expect(page.getByText('No signal: nothing was sent', { exact: false })).toBeVisible()
  await expect(slots(page).nth(0)).toHaveValue('451')
  await expect(slots(page).nth(1)).toHaveValue('452')
  await page.unroute('**/entries')
  await primary(page).click()
  await sayWhyAgain(page, 'The tape was twisted.')
  await expect(page.getByText(/Done again since/)).toBeVisible()
  // Nobody says of their own answer that it stands.
  await expect(page.getByRole('button', { name: 'Your own' }).first()).toBeDisabled()
})
