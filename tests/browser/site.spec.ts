import { address, choose, heading, person, read, signOff, step, toJoint, view, yes } from './people'
import { expect, test } from './test'

test('a refusal tells the crew why, and they can ask again', async ({ browser }) => {
  const [ines, tam] = [await person(browser, 'ines'), await person(browser, 'tam')]
  await toJoint(tam, 'RM-238')
  await step(tam, 'Hold before fusion').click()
  await toJoint(ines, 'RM-238')
  await step(ines, 'Hold before fusion').click()
  await ines.getByRole('button', { name: 'Refuse', exact: true }).click()
  await ines.getByRole('dialog').getByRole('button', { name: 'Refuse', exact: true }).click()
  await expect(ines.getByRole('dialog').getByText('Say why.')).toBeVisible()
  await signOff(ines, 'Refuse', { label: 'Why?', text: 'No scraped band to be seen downstream.' })
  await expect(tam.getByText('Refused: No scraped band to be seen downstream.').first()).toBeVisible()
  await tam.getByRole('button', { name: 'Everything is ready: request release' }).click()
  await expect(step(tam, 'Hold before fusion')).toHaveAccessibleName('Hold before fusion: Held')
})

test('a struck reading stays readable with its reason, worked with the keyboard alone', async ({
  browser,
}) => {
  const rhona = await person(browser, 'rhona')
  await toJoint(rhona, 'RM-237')
  await step(rhona, 'Stab mark').click()
  await expect(heading(rhona, 'Stab mark')).toBeVisible()
  await rhona.locator('#work').focus()
  await rhona.keyboard.press('n')
  await expect(step(rhona, 'Stab mark')).toHaveAccessibleName('Stab mark: Rejected')
  await rhona.keyboard.press('u')
  await rhona.getByRole('dialog').getByLabel('Why is it struck?').fill('Wrong key')
  await rhona.getByRole('dialog').getByRole('button', { name: 'Strike' }).press('Enter')
  await expect(rhona.getByText(/struck by Rhona Estcourt: Wrong key/)).toBeVisible()
  await expect(rhona.getByText(/It was struck since.*until an inspector has decided/)).toBeVisible()
  await expect(step(rhona, 'Stab mark')).toHaveAccessibleName('Stab mark: Rejected')
  const ines = await person(browser, 'ines')
  await toJoint(ines, 'RM-237')
  await step(ines, 'Stab mark').click()
  await ines.getByRole('button', { name: 'Measure again …' }).click()
  await signOff(ines, 'Measure again', { label: 'Why?', text: 'It was the wrong key.' })
  await expect(step(rhona, 'Stab mark')).toHaveAccessibleName('Stab mark: Not started')
  await expect(rhona.getByRole('dialog')).toBeHidden()
  await rhona.locator('#work').focus()
  await rhona.keyboard.press('y')
  await expect(step(rhona, 'Stab mark')).toHaveAccessibleName('Stab mark: Accepted')
})

test('two people differ, and the inspector chooses which stands', async ({ browser }) => {
  const [rhona, oskar] = [await person(browser, 'rhona'), await person(browser, 'oskar')]
  await toJoint(rhona, 'RM-237')
  await yes(rhona, 'Stab mark')
  await toJoint(oskar, 'RM-237')
  await step(oskar, 'Stab mark').click()
  // Answered already: a tap too many writes nothing.
  await expect(oskar.getByRole('button', { name: 'No', exact: true })).toHaveCount(0)
  await oskar.getByRole('button', { name: 'Answer again' }).click()
  await oskar.getByRole('button', { name: 'No', exact: true }).click()
  await expect(step(oskar, 'Stab mark')).toHaveAccessibleName('Stab mark: Differs')
  const ines = await person(browser, 'ines')
  await toJoint(ines, 'RM-237')
  await step(ines, 'Stab mark').click()
  await ines
    .locator('.answer', { hasText: 'Rhona Estcourt' })
    .getByRole('button', { name: 'This one stands' })
    .click()
  await signOff(ines, 'It stands', { label: 'Why?', text: 'The mark is there; I have seen it.' })
  await expect(step(ines, 'Stab mark')).toHaveAccessibleName('Stab mark: Accepted')
})

test('a hold is not released before its steps are done, but by a waiver that names them', async ({
  browser,
}) => {
  const [rhona, ines] = [await person(browser, 'rhona'), await person(browser, 'ines')]
  await toJoint(rhona, 'RM-237')
  await step(rhona, 'Hold before fusion').click()
  await rhona.getByRole('button', { name: 'Everything is ready: request release' }).click()
  await expect(step(rhona, 'Hold before fusion')).toHaveAccessibleName('Hold before fusion: Held')
  await toJoint(ines, 'RM-237')
  await step(ines, 'Hold before fusion').click()
  await expect(ines.getByText(/Still open before it: .*Aligned and clamped/)).toBeVisible()
  await expect(ines.getByRole('button', { name: 'Release', exact: true })).toBeDisabled()
  await ines.getByRole('button', { name: 'Waive', exact: true }).click()
  await expect(ines.getByRole('dialog').getByText(/It leaves open: .*Aligned and clamped/)).toBeVisible()
  await signOff(ines, 'Waive', { label: 'Why?', text: 'Trial piece, cut up afterwards.' })
  await expect(step(ines, 'Hold before fusion')).toHaveAccessibleName('Hold before fusion: Accepted')
})

test('too close to call asks for a better tool; the number pad types for a glove', async ({ browser }) => {
  const rhona = await person(browser, 'rhona')
  await toJoint(rhona, 'RM-235')
  await read(rhona, 'Ovality', ['316.8', '315.2', '314.0', '315.5'], 'Too close to call')
  await expect(
    rhona.getByText(/is too close to the limit .* to call: it is known to ±\s.*as each reading is ±/),
  ).toBeVisible()
  for (const key of ['3', '1', '5', '.', '9']) {
    await rhona.getByRole('button', { name: key, exact: true }).click()
  }
  await expect(rhona.locator('.slots input').first()).toHaveValue('315.9')
  await rhona.getByRole('button', { name: 'Delete the last digit' }).click()
  await expect(rhona.locator('.slots input').first()).toHaveValue('315.')
})

test('a wrong row of a note is named by row and column, and nothing is imported', async ({ browser }) => {
  const ines = await person(browser, 'ines')
  await view(ines, 'Deliveries')
  await expect(ines.getByRole('link', { name: 'DN-2201' })).toBeVisible()
  await ines.getByRole('button', { name: 'Import a delivery note' }).click()
  await choose(ines, 'Order', /PO-131/)
  await ines.getByLabel('Note as CSV').last().setInputFiles('samples/delivery-bad-rows.csv')
  await expect(ines.getByRole('heading', { name: '3 faults: nothing can be imported' })).toBeVisible()
  await expect(ines.getByRole('row', { name: /5 quantity "one" is not a whole number/ })).toBeVisible()
  await expect(ines.getByRole('button', { name: /^Import \d+ rows/ })).toHaveCount(0)
  await view(ines, 'Deliveries')
  await expect(ines.getByRole('link', { name: 'DN-2201' })).toBeVisible()
  await expect(ines.getByRole('link', { name: 'DN-2210' })).toHaveCount(0)
})

test('a reading out of reach of the server is kept in its field', async ({ browser }) => {
  const tam = await person(browser, 'tam')
  await toJoint(tam, 'RM-238')
  await step(tam, 'Deepest gouge').click()
  await expect(heading(tam, 'Deepest gouge')).toBeVisible()
  await tam.locator('.slots input').first().fill('0.4')
  await tam.context().setOffline(true)
  await tam.getByRole('button', { name: 'Record', exact: true }).click()
  await expect(tam.getByText('No signal: nothing was sent. What you typed is still here.')).toBeVisible()
  await expect(tam.locator('.slots input').first()).toHaveValue('0.4')
})

test('a role without a right sees so, and a foreign address is empty', async ({ browser }) => {
  const admin = await person(browser, 'admin')
  await expect(admin.getByText('Nothing on site needs an administrator')).toBeVisible()
  const tam = await person(browser, 'tam')
  await tam.goto(`${address()}/deliveries`)
  await expect(tam.getByText('Not for your role')).toBeVisible()
  await tam.goto(`${address()}/nowhere`)
  await expect(tam.getByText('There is nothing at this address')).toBeVisible()
})

test('the first view transfers at most 450 kB of compressed script, and nothing leaves this machine', async ({
  browser,
}) => {
  const context = await browser.newContext()
  const page = await context.newPage()
  const hosts = new Set<string>()
  const scripts: Promise<number>[] = []
  page.on('request', (r) => r.url().startsWith('http') && hosts.add(new URL(r.url()).host))
  page.on('requestfinished', (r) => {
    // One that is still on its way when the page is left is of no view that was looked at.
    if (r.resourceType() === 'script')
      scripts.push(
        r.sizes().then(
          (s) => s.responseBodySize,
          () => 0,
        ),
      )
  })
  await page.goto(`${address()}/sign-in`)
  await page.getByLabel('Sign-in name').fill('ines')
  await page.getByLabel('Password').fill('skerry-head')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByRole('heading', { name: 'Crews standing' })).toBeVisible()
  const total = (await Promise.all(scripts)).reduce((sum, n) => sum + n, 0)
  expect(total).toBeGreaterThan(20_000)
  expect(total).toBeLessThan(450 * 1024)
  expect([...hosts]).toEqual([new URL(address()).host])
})

test('a joint is withdrawn with a reason, takes no answer any more, and is brought back', async ({
  browser,
}) => {
  const [petra, sorrel] = [await person(browser, 'petra'), await person(browser, 'sorrel')]
  await toJoint(petra, 'GS-04')
  await toJoint(sorrel, 'GS-04')
  await expect(sorrel.getByRole('button', { name: 'Withdraw' })).toHaveCount(0)
  await petra.getByRole('button', { name: 'Withdraw' }).click()
  const why = { label: 'Why is it no part of the job any more?', text: 'The line ends before it.' }
  await signOff(petra, 'Withdraw it', why)
  // The crew hears of it where it stands.
  for (const page of [petra, sorrel]) {
    await expect(page.locator('.head')).toContainText('Withdrawn')
    await expect(page.getByText(why.text)).toBeVisible()
    await expect(page.getByRole('button', { name: 'Remark' })).toBeDisabled()
  }
  const ines = await person(browser, 'ines')
  await toJoint(ines, 'GS-04')
  await ines.getByRole('button', { name: 'Bring it back' }).click()
  await ines.getByRole('dialog').getByLabel('Why?').fill('It is the last one of the line after all.')
  await ines.getByRole('dialog').getByRole('button', { name: 'Bring it back' }).click()
  await expect(sorrel.locator('.head')).not.toContainText('Withdrawn')
  await expect(sorrel.getByRole('button', { name: 'Remark' })).toBeEnabled()
})
