import { demoPassword } from '../../demo/people'
import { address, heading, person, signOff, step, toJoint, view, yes, yesWhereAsked } from './people'
import { expect, test } from './test'

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
  await yesWhereAsked(page, [
    'Right parts on site',
    'Installer qualified',
    'Instruments in date',
    'Tools laid out',
    'Protected',
  ])
  for (const title of ['Pipe end sound', 'Clean', 'Stripe toward the spigot end', 'Against the first step']) {
    await expect(heading(page, title)).toBeVisible()
    await page.getByRole('button', { name: 'Yes', exact: true }).tap()
    await accepted(title)
    // The look at the end is followed by what was found.
    if (title === 'Pipe end sound') await page.getByRole('button', { name: 'None', exact: true }).tap()
  }
  await accepted('Chips and cracks')
  await page.getByLabel('Turns of the bar').fill('1')
  await page.getByRole('button', { name: 'Record', exact: true }).first().tap()
  await accepted('Equalised')
  await expect(page.getByRole('group', { name: 'Lubricate: bell. Seal: step.' })).toBeVisible()
  await page.getByRole('button', { name: 'On spigot or gasket as well' }).tap()
  await expect(step(page, 'Lubricant on the bell only')).toHaveAccessibleName(
    'Lubricant on the bell only: Rejected',
  )
  await expect(page.getByText(/A lubricated gasket rolls/).first()).toBeVisible()
  await step(page, 'Inside gap').tap()
  const pad = page.getByRole('group', { name: 'Number pad' })
  for (const digits of ['12', '12', '13', '12']) {
    for (const digit of digits) await pad.getByRole('button', { name: digit, exact: true }).tap()
    if ((await page.locator('.slots input').last().inputValue()) === '')
      await pad.getByRole('button', { name: 'Next reading' }).tap()
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
test('the same system worked with the keyboard alone', async ({ browser }) => {
  const page = await person(browser, 'sorrel')
  await page.keyboard.press('/')
  await expect(page.getByRole('textbox', { name: 'Go to' })).toBeFocused()
  await page.keyboard.type('GS-05')
  await expect(page.getByRole('option', { name: /GS-05/ })).toBeVisible()
  await page.keyboard.press('Enter')
  for (const title of [
    'Right parts on site',
    'Installer qualified',
    'Instruments in date',
    'Tools laid out',
    'Protected',
    'Pipe end sound',
    'Clean',
    'Stripe toward the spigot end',
    'Against the first step',
  ]) {
    await expect(heading(page, title)).toBeVisible()
    await page.keyboard.press('y')
    await expect(step(page, title)).toHaveAccessibleName(`${title}: Accepted`)
    if (title === 'Pipe end sound') await page.keyboard.press('1')
  }
  await page.getByLabel('Turns of the bar').focus()
  await page.keyboard.type('1')
  await page.keyboard.press('Enter')
  await expect(heading(page, 'Lubricant on the bell only')).toBeVisible()
  // The count's field is gone; the first answer is key 1.
  await page.locator('body').click({ position: { x: 640, y: 80 } })
  await page.keyboard.press('1')
  await expect(step(page, 'Lubricant on the bell only')).toHaveAccessibleName(
    'Lubricant on the bell only: Accepted',
  )
})

test('a revision is drafted, put right, reviewed by a second engineer and issued', async ({ browser }) => {
  const petra = await person(browser, 'petra')
  const open = async (page: typeof petra, title: RegExp) => {
    await view(page, 'Procedures')
    await page.getByRole('link', { name: title }).first().click()
  }
  await open(petra, /Ductile iron push-on.*Issued/)
  await petra.getByRole('button', { name: 'Draft revision B' }).click()
  const limit = petra.getByLabel('Gaps even, Largest less smallest, at most')
  await limit.fill('3 bar')
  await limit.press('Enter')
  await expect(petra.getByRole('alert')).toContainText(
    /Line \d+, column \d+: This must be a length, but the formula gives a pressure/,
  )
  await expect(petra.getByRole('button', { name: 'Save the draft' })).toBeDisabled()
  await limit.fill('2 mm')
  await limit.press('Enter')
  await petra.getByRole('button', { name: 'Save the draft' }).click()
  await expect(petra.getByText('Not saved')).toHaveCount(0)
  await petra.getByRole('button', { name: 'Give to review' }).click()
  await expect(petra.getByText('waits for a second engineer')).toBeVisible()

  const juno = await person(browser, 'juno')
  await open(juno, /Ductile iron push-on.*In review/)
  await juno.getByText('Compare', { exact: true }).click()
  await expect(juno.getByRole('row', { name: /Gaps even.*3 mm.*2 mm/ })).toBeVisible()
  await juno.getByText('What it changes', { exact: true }).click()
  await juno.getByRole('button', { name: 'Judge them anew' }).click()
  await expect(juno.getByRole('status').filter({ hasText: /^\d+ judged$/ })).toBeVisible()
  await juno.getByText('Dry run', { exact: true }).click()
  await juno.getByRole('button', { name: 'Begin the dry run' }).click()
  await yes(juno, 'Right parts on site')
  await juno.getByRole('button', { name: 'Accept', exact: true }).click()
  await signOff(juno, 'Review')
  await petra.reload()
  await petra.getByRole('button', { name: 'Issue', exact: true }).click()
  await signOff(petra, 'Issue')
  await expect(petra.getByText(/^Revision B, issued/)).toBeVisible()
  await open(petra, /Ductile iron push-on.*Revision A.*Superseded/)
  await expect(petra.getByText(/^Revision A, superseded/)).toBeVisible()
})
