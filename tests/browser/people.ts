import {
  expect,
  request,
  type Browser,
  type BrowserContextOptions,
  type Locator,
  type Page,
} from '@playwright/test'
import { DateTime } from 'luxon'
import { stateWords } from '../../app/words'
import { demoPassword, demoPin } from '../../demo/people'

export const address = () => process.env.VET_LINE_TEST_ADDRESS!

type SignedIn = Awaited<ReturnType<Awaited<ReturnType<typeof request.newContext>>['storageState']>>
const signedIn = new Map<string, Promise<SignedIn>>()
/** Each person signs in once for all tests of a worker; the form has tests of its own. */
function stateOf(name: string): Promise<SignedIn> {
  const state = signedIn.get(name) ?? signInOf(name)
  signedIn.set(name, state)
  return state
}
async function signInOf(name: string): Promise<SignedIn> {
  const client = await request.newContext({ baseURL: address() })
  const reply = await client.post('/api/session', { data: { signIn: name, password: demoPassword } })
  expect(reply.ok(), await reply.text()).toBe(true)
  const state = await client.storageState()
  await client.dispose()
  return state
}

/** A person with a browser of their own, signed in. */
export async function person(
  browser: Browser,
  name: string,
  before?: (page: Page) => Promise<void>,
  more: BrowserContextOptions = {},
): Promise<Page> {
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    storageState: await stateOf(name),
    ...more,
  })
  const page = await context.newPage()
  await before?.(page)
  await page.goto(address())
  await expect(page.getByRole('navigation', { name: 'Views' })).toBeVisible()
  return page
}

/** Goes to a view by its link, and is there: the view before may have buttons of the same words. */
export async function view(page: Page, name: string) {
  const link = page.getByRole('navigation', { name: 'Views' }).getByRole('link', { name })
  const there = await link.getAttribute('href')
  await link.click()
  await page.waitForURL((url) => url.pathname === there)
}

/** Brings orders in from a file, as far as the last look before they are taken. */
export async function lookAtOrders(page: Page, file: string) {
  await view(page, 'Deliveries')
  await page.getByRole('link', { name: 'Orders' }).click()
  await page.getByRole('button', { name: 'Import orders' }).click()
  await page.getByLabel('Orders as CSV').last().setInputFiles(file)
}

/** Goes to a joint with the go-to dialog. */
export async function toJoint(page: Page, number: string) {
  await page.getByRole('button', { name: 'Go to', exact: true }).click()
  await page.getByRole('textbox', { name: 'Go to' }).fill(number)
  await page
    .getByRole('option', { name: new RegExp(number) })
    .first()
    .click()
}

export const step = (page: Page, title: string) =>
  page.getByRole('navigation', { name: 'Steps' }).getByRole('button', {
    name: new RegExp(
      `^${title.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}: (?:${Object.values(stateWords).join('|')})$`,
    ),
  })
export const heading = (page: Page, title: string | RegExp) =>
  page.getByRole('heading', { level: 1, name: title, exact: true })

/** Opens a joint at one of its steps. */
export async function atStep(page: Page, joint: string, title: string) {
  await toJoint(page, joint)
  await step(page, title).click()
  await expect(heading(page, title)).toBeVisible()
}

/** Answers the shown step with yes and waits until it is accepted. */
export async function yes(page: Page, title: string) {
  await step(page, title).click()
  await expect(heading(page, title)).toBeVisible()
  // What is answered already is closed until it is asked for again.
  const anew = page.getByRole('button', { name: 'Answer again' })
  if (await anew.isVisible()) await anew.click()
  await page.getByRole('button', { name: 'Yes', exact: true }).click()
  await expect(step(page, title)).toHaveAccessibleName(`${title}: Accepted`)
}

/** Types readings into the slots and records them; the verdict's word is expected. */
export async function read(page: Page, title: string, readings: string[], verdict = 'Accepted') {
  await step(page, title).click()
  await expect(heading(page, title)).toBeVisible()
  const slots = page.locator('.slots input')
  await expect(slots).toHaveCount(readings.length)
  for (const [i, reading] of readings.entries()) await slots.nth(i).fill(reading)
  await page.getByRole('button', { name: 'Record', exact: true }).click()
  await expect(step(page, title)).toHaveAccessibleName(`${title}: ${verdict}`)
}

/** A further answer after a rejection says why it is given. */
export async function sayWhyAgain(page: Page, why: string) {
  await page.getByRole('dialog').getByLabel('Why is it measured or done again?').fill(why)
  await page.getByRole('dialog').getByRole('button', { name: 'Record', exact: true }).click()
}

/** Draws a signature, once the pad stays where it is. */
export async function drawSignature(page: Page) {
  const pad = page.getByLabel('Draw the signature here')
  await pad.hover()
  const box = (await pad.boundingBox())!
  await page.mouse.move(box.x + 40, box.y + 90)
  await page.mouse.down()
  for (const [x, y] of [
    [90, 40],
    [140, 120],
    [200, 60],
    [280, 110],
  ] as const)
    await page.mouse.move(box.x + x, box.y + y, { steps: 4 })
  await page.mouse.up()
}

export async function signOff(
  page: Page,
  action: string,
  reason?: { label: string; text: string },
  pin = demoPin,
) {
  const dialog = page.getByRole('dialog')
  if (reason) await dialog.getByLabel(reason.label).fill(reason.text)
  await dialog.getByLabel('PIN or password').fill(pin)
  await dialog.getByRole('button', { name: action, exact: true }).click()
  await expect(dialog).toBeHidden()
}

/** Opens a select as a finger would, and gives its own list of options. */
export async function openSelect(page: Page, label: string): Promise<Locator> {
  const box = page.getByRole('combobox', { name: label, exact: true })
  await page.locator('.el-select', { has: box }).click()
  return page.locator(`[id="${await box.getAttribute('aria-controls')}"]`)
}

/** Chooses in a select by its label and the option's text. */
export async function choose(page: Page, label: string, option: string | RegExp) {
  const list = await openSelect(page, label)
  await list.getByRole('option', { name: option }).click()
}

/** Types a part of the name into a select and takes the option found. */
export async function pick(page: Page, label: string, text: string) {
  const list = await openSelect(page, label)
  await page.getByRole('combobox', { name: label, exact: true }).fill(text)
  await list.getByRole('option', { name: new RegExp(`^${text}`) }).click()
}

/** Types a calendar day as the product shows days; nothing for none. */
export async function typeDay(page: Page, label: string, iso: string) {
  const field = page.getByRole('combobox', { name: label })
  await field.fill(iso ? DateTime.fromISO(iso).toFormat('d LLL yyyy') : '')
  await field.press('Enter')
}

/** Answers yes to questions that no earlier joint of the shift has answered already. */
export async function yesWhereAsked(page: Page, titles: readonly string[]) {
  for (const title of titles) {
    const name = await step(page, title).getAttribute('aria-label')
    if (name?.endsWith(': Accepted')) continue
    await step(page, title).click()
    await expect(heading(page, title)).toBeVisible()
    await page.getByRole('button', { name: 'Yes', exact: true }).click()
    await expect(step(page, title)).toHaveAccessibleName(`${title}: Accepted`)
  }
}

/** A reach of flexible pipe on the sewer that nobody has begun, laid out by an engineer; none of the demo's is. */
export async function demoReach(browser: Browser, name: string): Promise<void> {
  const petra = await person(browser, 'petra')
  const facts = {
    ...{ 'pipe.od': '315 mm', 'pipe.bore': '290 mm', 'pipe.profile': 'no', 'pipe.strutted': 'no' },
    ...{ 'site.depth': '1.1 m', 'site.wet': 'no', 'site.designCover': '0.6 m', 'site.traffic': 'no' },
    ...{ 'site.floods': 'no', 'site.road': 'no', 'site.invert': '100 m', 'site.wall': '12.5 mm' },
    ...{ 'site.benchmark': '101.5 m', 'site.run': '60 m', 'site.unsupported': '1.2 m', 'site.bed': '100 mm' },
    ...{ 'site.levels': 'yes', 'line.gravity': 'yes', 'line.against': 'no', 'site.window': '70 %' },
    ...{ 'site.cover': '0.9 m', 'site.deflection': '5 %', 'site.surveyPoints': '3', 'site.tests': '1' },
  }
  const row = {
    ...{ line: 'GS', name, from: '500 m', to: '506 m', system: 'embed-flexible', crew: 'Crew Dunes' },
    facts: Object.entries(facts)
      .map(([key, value]) => `${key}=${value}`)
      .join('; '),
  }
  const reply = await petra.request.post(`${address()}/api/projects/skerry-head/lists/reaches`, {
    data: { row },
  })
  expect(reply.ok(), await reply.text()).toBe(true)
}
