import { readFile } from 'node:fs/promises'
import type { Page } from '@playwright/test'
import { address, choose, lookAtOrders, person, step, view } from './people'
import { expect, test } from './test'

test('the bench works with whatever unit is typed, and says what is wrong by the field’s name', async ({
  browser,
}) => {
  const page = await person(browser, 'ines')
  await page.goto(`${address()}/bench?calculator=joint-gap`)
  await page.getByLabel('Gaps').fill('20 mm; 10 mm; 0; 10')
  await page.getByLabel('Diameter').fill('1 m')
  await expect(page.getByText('1.14576°')).toBeVisible()
  await expect(page.getByRole('img', { name: 'Mean gap 10 mm, joint angle 1.146°' })).toBeVisible()
  await page.getByLabel('Diameter').fill('5 bar')
  await expect(page.getByRole('alert')).toHaveText('Diameter must be a length, but "bar" is a pressure.')
  await page.getByLabel('Diameter').fill('20 in')
  await expect(page.getByText('2.25457°')).toBeVisible()
  await page.getByRole('button', { name: 'Force on a plug' }).click()
  await expect(page.getByText('Nobody in front of it', { exact: false })).toBeVisible()
  await page.getByLabel('Pressure').fill('35')
  await page.getByLabel('Diameter').fill('600')
  // π/4 · 0.36 m² · 35 kPa
  await expect(page.getByText('9896.02 N')).toBeVisible()
})

test('keys lead from view to view, and say themselves', async ({ browser }) => {
  const page = await person(browser, 'ines')
  await page.keyboard.press('?')
  await expect(page.getByRole('dialog')).toContainText('Strike the last entry of this step')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toBeHidden()
  for (const [key, path] of [
    ['l', '/line'],
    ['k', '/clocks'],
    ['d', '/deliveries'],
    ['e', '/embedment'],
    ['p', '/tests'],
    ['n', '/ncrs'],
    ['b', '/procedures'],
    ['c', '/bench'],
    ['s', '/setup'],
    ['t', '/'],
  ]) {
    await page.keyboard.press('g')
    await page.keyboard.press(key!)
    await expect(page).toHaveURL(new URL(path!, address()).href)
  }
})

test('what is typed at once after / lands in the go-to, in its order', async ({ browser }) => {
  const page = await person(browser, 'ines')
  await page.keyboard.press('/')
  await page.keyboard.type('RM-22')
  await expect(page.getByRole('textbox', { name: 'Go to' })).toHaveValue('RM-22')
  await expect(page.getByRole('option', { name: /RM-22/ }).first()).toBeVisible()
  // Enter goes to what was typed, not to what had been found before the last letter.
  await page.keyboard.type('9')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { level: 2, name: 'RM-229' })).toBeVisible()
})

test('go-to finds a station, a lot and a calculator, and says when there is nothing', async ({ browser }) => {
  const page = await person(browser, 'ines')
  const find = async (text: string) => {
    await page.keyboard.press('/')
    await page.getByRole('textbox', { name: 'Go to' }).fill(text)
  }
  await find('1200 m')
  await page.getByRole('option', { name: /Station 1200 m/ }).click()
  await expect(page).toHaveURL(/\/line\?at=1200/)
  await find('L2406')
  await page.getByRole('option', { name: /Lot L2406/ }).click()
  await expect(page.getByRole('heading', { name: 'L2406' })).toBeVisible()
  await find('torque')
  await page.getByRole('option', { name: /Bolt torque and preload/ }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Bolt torque and preload' })).toBeVisible()
  await find('zzzz')
  await expect(page.getByText('Nothing by that name.')).toBeVisible()
})

test('the night shift stays on after a reload, and goes back to day', async ({ browser }) => {
  const page = await person(browser, 'ines')
  const ground = () => page.evaluate(() => getComputedStyle(document.body).backgroundColor)
  const day = await ground()
  await page.getByRole('button', { name: 'Night shift' }).click()
  await expect.poll(ground).not.toBe(day)
  await page.reload()
  await expect(page.getByRole('button', { name: 'Day shift' })).toBeVisible()
  expect(await ground()).not.toBe(day)
  await page.getByRole('button', { name: 'Day shift' }).click()
  await expect.poll(ground).toBe(day)
})

test('embedment: a bad lift is said at once, relaid, and the drawing follows', async ({ browser }) => {
  const page = await person(browser, 'ines')
  await view(page, 'Embedment')
  await page.getByRole('link', { name: /RM reach 46/ }).click()
  await step(page, 'Lifts beside and over the pipe').click()
  const thickness = page.getByLabel('Loose thickness, mm')
  const record = page.getByRole('button', { name: 'Record', exact: true })
  await page.getByText('Both sides', { exact: true }).click()
  await choose(page, 'Material', 'Sand')
  await thickness.fill('thick')
  await expect(page.getByRole('alert')).toContainText('a length')
  const seen = async () => {
    await page.getByRole('spinbutton', { name: 'Passes' }).fill('4')
    await page.getByText('Damp', { exact: true }).click()
    await page.getByText('Yes', { exact: true }).click()
  }
  await thickness.fill('350')
  await seen()
  await expect(page.getByText('becomes 298 mm')).toBeVisible()
  await record.click()
  await expect(page.getByText('Laid 350 mm thick, at most 300 mm loose.').first()).toBeVisible()
  await expect(page.getByText('Rejected', { exact: true }).first()).toBeVisible()
  await expect(page.getByRole('img', { name: 'Fill 298 mm left, 298 mm right of 615 mm' })).toBeVisible()
  await page.getByRole('list', { name: 'Record of this step' }).getByText('350 mm loose').click()
  await page.getByRole('button', { name: 'Laid again' }).click()
  await thickness.fill('200')
  await seen()
  await record.click()
  await expect(page.getByRole('img', { name: 'Fill 170 mm left, 170 mm right of 615 mm' })).toBeVisible()
  await expect(page.getByText('Rejected', { exact: true })).toHaveCount(0)
})

test('a document with a fault is not taken in; a good one goes out and comes back as it was', async ({
  browser,
}) => {
  const page = await person(browser, 'petra')
  await view(page, 'Procedures')
  await page.getByLabel('Find a procedure').fill('no such thing')
  await expect(page.getByText('Nothing by that name')).toBeVisible()
  await page.getByLabel('Find a procedure').fill('solvent')
  await expect(page.getByRole('link', { name: /solvent/i }).first()).toBeVisible()
  const bad = 'key: pvc-solvent-weld\nrevision: Z\ntitle: [\n'
  await page
    .getByLabel('Procedure document')
    .setInputFiles({ name: 'bad.yaml', mimeType: 'application/yaml', buffer: Buffer.from(bad) })
  await expect(page.getByRole('alert')).toContainText(/Line \d+, column \d+.*Nothing was taken in\./)
  await page
    .getByRole('link', { name: /solvent.*Issued/i })
    .first()
    .click()
  await page.getByRole('button', { name: 'Save as' }).click()
  const download = page.waitForEvent('download')
  await page.getByRole('menuitem', { name: /YAML/ }).click()
  const text = await readFile((await (await download).path())!, 'utf8')
  await view(page, 'Procedures')
  await page
    .getByLabel('Procedure document')
    .setInputFiles({ name: 'again.yaml', mimeType: 'application/yaml', buffer: Buffer.from(text) })
  await expect(page.getByRole('alert')).toContainText('is there already')
  await page.getByLabel('Procedure document').setInputFiles({
    name: 'next.yaml',
    mimeType: 'application/yaml',
    buffer: Buffer.from(text.replace(/^revision: .*$/m, 'revision: Y')),
  })
  await expect(page.getByText(/^Revision Y, draft/)).toBeVisible()
})

test('an instrument is entered by the administrator, with what is wrong said by its field', async ({
  browser,
}) => {
  const page = await person(browser, 'admin')
  await view(page, 'Setup')
  await page.getByRole('button', { name: 'Add an instrument' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByRole('textbox', { name: 'Name', exact: true }).fill('Rule R-9')
  await dialog.getByLabel('Kind').fill('rule')
  await choose(page, 'Quantity', /^length$/)
  await dialog.getByLabel('Range from').fill('0 mm')
  await dialog.getByLabel('Range to').fill('300 bar')
  await dialog.getByLabel('Resolution').fill('0.5 mm')
  await dialog.getByLabel('Uncertainty').fill('0.5 mm')
  await dialog.getByRole('button', { name: 'Add', exact: true }).click()
  await expect(dialog.getByText('must be a length', { exact: false })).toBeVisible()
  await dialog.getByLabel('Range to').fill('300 mm')
  await dialog.getByRole('button', { name: 'Add', exact: true }).click()
  await expect(page.getByRole('row', { name: /Rule R-9/ })).toContainText('0 mm to 300 mm')
})

/** Scrolls by the wheel, once more where the list slipped away from beneath it. */
const scrollTo = (page: Page, by: number, name: RegExp) =>
  expect(async () => {
    await page.getByRole('listbox', { name: 'Items' }).hover()
    await page.mouse.wheel(0, by)
    await expect(page.getByRole('option', { name }).first()).toBeVisible({ timeout: 10_000 })
  }).toPass()

test('twenty thousand pipe lengths come in, are scrolled through and found', async ({ browser }) => {
  const page = await person(browser, 'ines')
  await lookAtOrders(page, 'samples/orders-large.csv')
  await page.getByRole('button', { name: /^Import 1 order/ }).click()
  await expect(page.getByRole('heading', { name: 'PO-900' })).toBeVisible()
  await page.getByRole('link', { name: 'Notes' }).click()
  await page.getByRole('button', { name: 'Import a delivery note' }).click()
  await page.getByRole('combobox', { name: 'Order', exact: true }).fill('PO-900')
  await page.getByRole('option', { name: /PO-900.*20,000 outstanding/ }).click()
  await page.getByLabel('Note as CSV').last().setInputFiles('samples/delivery-large.csv')
  await page.getByRole('button', { name: 'Import 20,000 rows' }).click()
  await expect(page.getByRole('option', { name: /N00001/ })).toBeVisible()
  // Only what is looked at is in the page.
  expect(await page.getByRole('option').count()).toBeLessThan(100)
  await scrollTo(page, 600_000, /N1\d{4}/)
  await scrollTo(page, 2_000_000, /N20000/)
  await page.getByLabel('Find an item').fill('1987')
  await expect(page.getByRole('option', { name: /N01987/ })).toBeVisible()
  await page.getByLabel('Find an item').fill('no such serial')
  await expect(page.getByText('Nothing like that on this note.')).toBeVisible()
})

test('nothing in any view can be read as a time left and as a time of day', async ({ browser }) => {
  const ines = await person(browser, 'ines')
  const found: string[] = []
  for (const path of [
    '/',
    '/line',
    '/clocks',
    '/deliveries',
    '/deliveries/lots',
    '/deliveries/yard',
    '/embedment',
    '/tests',
    '/ncrs',
    '/procedures',
    '/bench',
    '/setup',
  ]) {
    await ines.goto(`${address()}${path}`)
    await expect(ines.getByRole('main').getByText('Loading …')).toHaveCount(0)
    await expect(ines.getByRole('main')).not.toBeEmpty()
    const text = await ines.getByRole('main').innerText()
    // Two figures, a colon, two figures: an hour and its minute. Anything else with colons is a span.
    found.push(
      ...[...text.matchAll(/\d+(?::\d+)+/g)]
        .map(([t]) => `${path} ${t}`)
        .filter((t) => !/ (?:[01]\d|2[0-3]):[0-5]\d$/.test(t)),
    )
  }
  expect(found).toEqual([])
  // What runs down says its unit.
  await ines.goto(`${address()}/clocks`)
  const timers = ines.getByRole('timer')
  await expect(timers.first()).toBeVisible()
  for (const text of await timers.allInnerTexts())
    expect(text).toMatch(/^(?:now|−?(?:\d+ h ?)?(?:\d+ min ?)?(?:\d+ s)?)$/)
})
