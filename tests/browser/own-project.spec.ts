import type { Browser, Page } from '@playwright/test'
import { startEmptySite, type TestSite } from '../site'
import { choose, heading, signOff, step, yesWhereAsked } from './people'
import { expect, test } from './test'

/** From an empty start to the first accepted joint, by clicks alone, as docs/first-project.md leads. */
let site: TestSite & { link: string }
test.beforeEach(() => {
  site = startEmptySite(4360)
})
test.afterEach(() => site?.stop())

/** On a site that reads inches: every other test of the browser reads millimetres. */
const sites = [
  {
    ...{ units: 'US', pipe: '8', first: '8 ft', diameter: '29 15/16', depth: '4 5/16', unit: 'in' },
    station: 'station 8.0 ft',
  },
] as const

const PASSWORD = 'a moor with curlews'
const PIN = '7391'
const SYSTEM = 'Concrete, round ring in a groove'

async function fresh(browser: Browser, address: string): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
  const page = await context.newPage()
  page.on('pageerror', (error) => {
    throw error
  })
  await page.goto(address)
  return page
}
async function chooseSecrets(page: Page) {
  await page.getByLabel('Password, at least ten letters').fill(PASSWORD)
  await page.getByLabel('The password once more').fill(PASSWORD)
  await page.getByLabel(/^PIN for sign-offs/).fill(PIN)
}
/** Follows a one-time link, as the person it is for. */
async function comeIn(browser: Browser, link: string, name: string): Promise<Page> {
  const page = await fresh(browser, link)
  await expect(page.getByRole('heading', { name: `Welcome, ${name}` })).toBeVisible()
  await chooseSecrets(page)
  await page.getByRole('button', { name: 'Come in' }).click()
  await page.getByRole('navigation', { name: 'Views' }).waitFor()
  return page
}
for (const { units, pipe, first, diameter, depth, unit, station } of sites)
  test(`a job of one’s own, ${units}: from an empty start to the first accepted joint`, async ({
    browser,
  }) => {
    const admin = await fresh(browser, site.link)
    const links: Record<string, string> = {}

    await test.step('the first administrator', async () => {
      await expect(heading(admin, 'A new Vet Line')).toBeVisible()
      await admin.getByLabel('Name of this installation').fill('Moorland Works')
      await admin.getByLabel('Your name').fill('Ivo Cragside')
      await admin.getByLabel('Sign-in name').fill('ivo')
      await chooseSecrets(admin)
      await admin.getByRole('button', { name: 'Begin' }).click()
      await admin.getByLabel('Name', { exact: true }).fill('Tarn Fell Sewer')
      await expect(admin.getByLabel('Key, for addresses and files')).toHaveValue('tarn-fell-sewer')
      await admin.getByText(units, { exact: true }).click()
      await admin.getByRole('button', { name: 'Begin the project' }).click()
      await expect(heading(admin, /things to do before crews can work/)).toBeVisible()
    })

    await test.step('a crew and four people', async () => {
      await admin.getByRole('link', { name: 'People' }).first().click()
      await admin.getByLabel('Name of the crew').fill('Crew Fell')
      await admin.getByRole('button', { name: 'Add the crew' }).click()
      for (const [name, signIn, role] of [
        ['Wren Halloway', 'wren', 'Engineer'],
        ['Pike Loxmoor', 'pike', 'Engineer'],
        ['Nettie Brackwell', 'nettie', 'Inspector'],
        ['Orla Tarnside', 'orla', 'Crew lead'],
      ] as const) {
        await admin.getByRole('button', { name: 'Add a person' }).click()
        await admin.getByLabel('Name', { exact: true }).fill(name)
        await admin.getByLabel('Sign-in name').fill(signIn)
        await admin.getByText(role, { exact: true }).last().click()
        if (role === 'Crew lead') await choose(admin, 'Crew', 'Crew Fell')
        await admin.getByRole('button', { name: 'Add, and show the link' }).click()
        await expect(admin.getByRole('status').filter({ hasText: name })).toBeVisible()
        links[signIn] = (await admin.locator('.address').textContent())!.trim()
      }
    })

    await test.step('the line, from its alignment and its profile', async () => {
      await admin.getByRole('link', { name: 'Lines' }).click()
      const file = admin.getByLabel(/^Alignment \(GeoJSON\)/).last()
      await file.setInputFiles('samples/own-project/alignment.geojson')
      await expect(admin.getByText('The points have no elevations')).toBeVisible()
      await file.setInputFiles('samples/own-project/profile.csv')
      await expect(admin.getByRole('img', { name: 'Long section of the line' })).toBeVisible()
      await expect(admin.getByLabel('Name', { exact: true })).toHaveValue('Tarn Fell sewer')
      await admin.getByLabel('Key, for numbers').fill('TF')
      await admin.getByLabel('Material').fill('concrete')
      await admin.getByRole('button', { name: 'Add the line' }).click()
      await expect(admin.getByText(/^concrete, stations 0 to \d+/)).toBeVisible()
    })

    const wren = await comeIn(browser, links.wren!, 'Wren Halloway')
    const pike = await comeIn(browser, links.pike!, 'Pike Loxmoor')
    await test.step('a link works once', async () => {
      const again = await fresh(browser, links.wren!)
      await expect(again.getByText('This link does not work, or not any more')).toBeVisible()
      await again.context().close()
    })

    await test.step('a sample is adopted, reviewed by another engineer, and issued', async () => {
      await wren.getByRole('link', { name: 'Procedures' }).click()
      await wren.getByRole('button', { name: 'Adopt a sample' }).first().click()
      await wren.getByText(SYSTEM).first().click()
      await wren.getByRole('button', { name: 'Adopt 1 as drafts' }).click()
      await wren
        .getByRole('link', { name: new RegExp(SYSTEM) })
        .first()
        .click()
      await wren.getByRole('button', { name: 'Give to review' }).click()
      await pike.getByRole('link', { name: 'Procedures' }).click()
      await pike
        .getByRole('link', { name: new RegExp(SYSTEM) })
        .first()
        .click()
      await pike.getByRole('button', { name: 'Accept' }).click()
      await signOff(pike, 'Review', undefined, PIN)
      await expect(pike.getByRole('button', { name: 'Issue' })).toBeVisible()
      await pike.getByRole('button', { name: 'Issue' }).click()
      await signOff(pike, 'Issue', undefined, PIN)
      await expect(pike.getByText(/issued/i).first()).toBeVisible()
    })

    await test.step('joints are planned a pipe length apart, seen before they are made', async () => {
      await admin.getByRole('link', { name: 'Joints' }).first().click()
      await choose(admin, 'Procedure', SYSTEM)
      await choose(admin, 'Crew', 'Crew Fell')
      await admin.getByLabel('Length of one pipe in the line').fill(pipe)
      await expect(admin.getByText(`joints, TF-001 at ${first} to TF-`)).toBeVisible()
      await admin.getByRole('button', { name: /^Plan \d+ joints$/ }).click()
      await expect(admin.getByText(/joints are planned\./)).toBeVisible()
    })

    const nettie = await comeIn(browser, links.nettie!, 'Nettie Brackwell')
    await nettie.context().close()
    const orla = await comeIn(browser, links.orla!, 'Orla Tarnside')
    await test.step('the plan check says that the crew can work, but for instruments', async () => {
      await admin.getByRole('link', { name: 'Plan check' }).click()
      await expect(heading(admin, '1 thing to do before crews can work')).toBeVisible()
      await expect(admin.getByText('No instrument is in calibration')).toBeVisible()
    })

    await test.step('the first joint is opened, made, and accepted', async () => {
      await orla.getByRole('link', { name: 'Line', exact: true }).click()
      await orla.getByRole('button', { name: 'Next joint to open: TF-001' }).click()
      await orla.getByRole('button', { name: 'Open this joint' }).click()
      await expect(orla.getByText(station)).toBeVisible()
      await expect(orla.locator('.fact', { hasText: 'Depth of the bell' })).toContainText(unit)
      await orla.getByLabel('Outside diameter at the spigot').fill(diameter)
      await orla.getByLabel('Depth of the bell').fill(depth)
      await orla.getByRole('button', { name: 'Open the joint' }).click()
      await yesWhereAsked(orla, [
        'Right parts on site',
        'Installer qualified',
        'Instruments in date',
        'Tools laid out',
        'Protected',
        'Pipe end sound',
      ])
      await step(orla, 'Chips and cracks').click()
      await orla.getByRole('button', { name: 'None', exact: true }).click()
      await yesWhereAsked(orla, ['Clean'])
      await step(orla, 'Lubricant').click()
      await orla.getByRole('button', { name: 'Bell, spigot, groove and ring' }).click()
      await yesWhereAsked(orla, ['Stretched into the groove'])
      await step(orla, 'Equalised').click()
      await orla.getByLabel('Turns of the bar').fill('1.5')
      await orla.getByRole('button', { name: 'Record', exact: true }).first().click()
      await yesWhereAsked(orla, ['Straight, touching all round', 'Ring still in its groove', 'After makeup'])
      await expect(orla.locator('.head')).toContainText('Accepted')
    })

    await test.step('the next one is asked what is its own: the shift and the facts stand', async () => {
      await orla.getByRole('link', { name: 'Line', exact: true }).click()
      await orla.getByRole('button', { name: 'Next joint to open: TF-002' }).click()
      await orla.getByRole('button', { name: 'Open this joint' }).click()
      await orla.getByRole('button', { name: 'Same as at TF-001' }).click()
      await expect(orla.getByLabel('Depth of the bell')).toHaveValue(depth)
      await orla.getByRole('button', { name: 'Open the joint' }).click()
      await expect(step(orla, 'Tools laid out')).toHaveAccessibleName('Tools laid out: Accepted')
      await expect(heading(orla, 'Pipe end sound')).toBeVisible()
    })

    await test.step('whoever is let in no more is out at once', async () => {
      await admin.getByRole('link', { name: 'People' }).first().click()
      const row = admin.getByRole('listitem').filter({ hasText: 'Orla Tarnside' })
      await row.getByRole('button', { name: 'Let in no more' }).click()
      await admin.getByLabel('Why').fill('left the job')
      await admin.getByRole('dialog').getByRole('button', { name: 'Let in no more' }).click()
      await expect(row.getByRole('button', { name: 'Let in again' })).toBeVisible()
      await orla.reload()
      await expect(orla.getByRole('button', { name: 'Sign in' })).toBeVisible()
    })
  })
