import type { Browser, Page } from '@playwright/test'
import { PipeUnderTest, sound, type Story } from '../../devices/pipe'
import { Outbox, packByNumber, signIn } from '../../devices/site'
import { demoPassword } from '../../demo/people'
import { scheme } from '../../demo/scheme'
import { dot } from '../server/picture'
import { address, choose, drawSignature, person, signOff, view } from './people'
import { expect, test } from './test'

/** Blown up in ten seconds to 20.4 kPa, and tight. */
const casing: Story = (t) => ({ pressure: t < 10 ? 2.04 * t : 20.4 })
/** so many seconds of the pipe between two readings */
const STEP = 2

async function feeder(number: string) {
  const cookie = await signIn(address(), 'ines', demoPassword)
  const pack = await packByNumber(address(), scheme.key, number, cookie)
  const outbox = new Outbox({ address: address(), project: scheme.key, pack }, cookie)
  const begun = Date.now() - 10 * 60_000
  const pipe = new PipeUnderTest(casing, begun, { ...sound, noise: 0.02, repeats: 9 })
  let t = 0
  return {
    /** reads on for so many seconds of the pipe; sent at once, or kept as without a connection */
    async run(seconds: number, send = true) {
      for (const end = t + seconds; t < end; t += STEP) {
        const reading = pipe.read(begun + t * 1000)
        if (reading) outbox.add(reading)
      }
      if (send) expect(await outbox.send()).toBeNull()
    },
  }
}

async function plan(petra: Page, number: string) {
  await view(petra, 'Tests')
  await petra.getByRole('link', { name: 'Lay out' }).click()
  await petra.getByLabel('Number', { exact: true }).fill(number)
  await petra.getByLabel('Weakest component', { exact: true }).fill('Shrink sleeve')
  await choose(petra, 'Method', 'Casing under air')
  await petra.getByLabel('Test pressure at the gauge', { exact: true }).fill('20 kPa')
  await petra.getByLabel('Least at the highest point', { exact: true }).fill('19 kPa')
  await petra.getByLabel('Class of the weakest component', { exact: true }).fill('60 kPa')
  await choose(petra, 'Gauge', /Low/)
  await petra.getByLabel('Duration').fill('60 s')
  await petra.getByRole('button', { name: 'Plan the pack' }).click()
  await petra.getByRole('link', { name: number, exact: true }).click()
}
const open = async (browser: Browser, name: string, number: string) => {
  const page = await person(browser, name)
  await view(page, 'Tests')
  await page.getByRole('link', { name: number, exact: true }).click()
  return page
}

test('a test runs live before four people, loses its logger, and ends signed', async ({ browser }) => {
  const petra = await person(browser, 'petra')
  await plan(petra, 'TP-91')
  await petra.getByRole('button', { name: 'Start the test' }).click()
  await petra.getByLabel('Reason (an engineer’s)').fill('The casing is tested before its joint is closed.')
  await petra.getByRole('dialog').getByRole('button', { name: 'Start the test' }).click()
  await expect(petra.getByText('Waiting for the logger')).toBeVisible()

  const ines = await open(browser, 'ines', 'TP-91')
  const logger = await feeder('TP-91')
  await logger.run(30)
  const now = ines.getByRole('region', { name: 'The test now' })
  await expect(now).toContainText('20.4')
  await expect(now).toContainText('to go')
  await now.getByRole('button', { name: 'Paused' }).click()
  await expect(now.getByRole('list', { name: 'Marked' })).toContainText('Paused')
  await now.getByRole('button', { name: 'Strike' }).click()
  await expect(now.getByRole('list', { name: 'Marked' })).toHaveCount(0)

  const hale = await open(browser, 'hale', 'TP-91')
  await hale.getByRole('link', { name: 'Watch' }).click()
  await hale.getByRole('button', { name: 'I am here' }).click()
  await expect(hale.getByText('Here: Hale Crossmere')).toBeVisible()
  const oskar = await open(browser, 'oskar', 'TP-91')

  // The logger goes out of reach: everybody who watches sees so, and the gap is filled when it is back.
  await logger.run(20, false)
  for (const page of [ines, hale, oskar]) await expect(page.getByText(/^No reading for/)).toBeVisible()
  await logger.run(30)
  for (const page of [ines, hale, oskar]) await expect(page.getByText(/^No reading for/)).toHaveCount(0)
  await expect(oskar.getByText('Accepted', { exact: true })).toBeVisible()
  await ines.getByRole('button', { name: 'Read as a table' }).click()
  await expect(ines.getByRole('columnheader', { name: 'Pressure, kPa' })).toBeVisible()

  await ines.getByRole('button', { name: 'End the run and evaluate' }).click()
  await expect(ines.getByText('To sign', { exact: true })).toBeVisible()
  const after = ines.getByRole('listitem').filter({ hasText: 'Depressurised slowly' })
  await after.getByRole('button', { name: 'Done' }).click()
  await expect(after).toContainText('Done, Ines Marwood')
  await hale.getByRole('link', { name: 'The whole pack' }).click()
  await hale.getByRole('button', { name: 'Sign', exact: true }).click()
  await drawSignature(hale)
  await signOff(hale, 'Sign')
  await expect(hale.getByText('Signed', { exact: true })).toBeVisible()
})

test('a file of a foreign logger is taken when a person has said what it leaves open', async ({
  browser,
}) => {
  const petra = await person(browser, 'petra')
  await plan(petra, 'TP-92')
  await petra.getByRole('button', { name: 'Start the test' }).click()
  await petra.getByLabel('Reason (an engineer’s)').fill('Programme')
  await petra.getByRole('dialog').getByRole('button', { name: 'Start the test' }).click()
  await expect(petra.getByText('Waiting for the logger')).toBeVisible()
  const from = Date.now() - 8 * 60_000
  const rows = Array.from({ length: 60 }, (_v, i) => {
    const at = new Date(from + i * 2000).toISOString().slice(0, 19).replace('T', ' ')
    return `${at},${(i < 6 ? i * 34 : 204).toFixed(1)},18`
  })
  await petra.getByLabel('Log as CSV').setInputFiles({
    ...{ name: 'chamber.csv', mimeType: 'text/csv' },
    buffer: Buffer.from(['Clock,Chamber,Sleeve temp', ...rows].join('\n')),
  })
  const dialog = petra.getByRole('dialog', { name: 'Log from chamber.csv' })
  await expect(dialog.getByText('Say what is marked: nothing of it is guessed.')).toBeVisible()
  await expect(dialog.getByRole('button', { name: 'Take the log' })).toBeDisabled()
  await choose(petra, 'Pressure', 'Chamber')
  await choose(petra, 'Unit of the pressure', 'mbar')
  await choose(petra, 'Zone of the logger’s clock', 'UTC')
  await expect(dialog.getByText('60 readings')).toBeVisible()
  await dialog.getByRole('button', { name: 'Take the log' }).click()
  await expect(petra.getByText('To sign', { exact: true })).toBeVisible()
  await expect(petra.getByText(/^Every number is within its limit/)).toBeVisible()
})

test('a test from its ready list on, by touch on a phone and by keys: the witness invited, a row shown by a photo', async ({
  browser,
}) => {
  const petra = await person(browser, 'petra')
  await plan(petra, 'TP-93')
  const ready = (page: Page, title: string) => page.getByRole('listitem').filter({ hasText: title })
  await ready(petra, 'Witness told in time')
    .getByRole('button', { name: 'Invite the witness' })
    .press('Enter')
  await ready(petra, 'Witness told in time')
    .getByRole('button', { name: 'Invite', exact: true })
    .press('Enter')
  await expect(ready(petra, 'Witness told in time')).toContainText('has not answered.')

  const hale = await person(browser, 'hale')
  await hale.getByRole('link', { name: /TP-93 Pressure test/ }).click()
  await hale.getByRole('button', { name: 'I will come' }).click()
  await expect(ready(hale, 'Witness told in time')).toContainText('The witness will come.')

  const ines = await person(browser, 'ines', undefined, {
    viewport: { width: 390, height: 844 },
    hasTouch: true,
    isMobile: true,
  })
  await ines.goto(petra.url())
  const chooser = ines.waitForEvent('filechooser')
  await ines.getByRole('button', { name: /^Confirm with a photo: Exclusion zone/ }).tap()
  await (
    await chooser
  ).setFiles({ name: 'zone.png', mimeType: 'image/png', buffer: Buffer.from(dot, 'base64') })
  await expect(ines.getByRole('img', { name: /^Photo: Exclusion zone/ })).toBeVisible()
  await expect(ready(ines, 'Exclusion zone')).toContainText('Confirmed by Ines Marwood.')

  await petra.getByRole('button', { name: 'Start the test' }).press('Enter')
  await petra.getByLabel('Reason (an engineer’s)').fill('The casing is tested before its joint is closed.')
  await petra.getByRole('dialog').getByRole('button', { name: 'Start the test' }).press('Enter')
  await expect(petra.getByText('Waiting for the logger')).toBeVisible()

  const pad = ines.getByRole('group', { name: 'Number pad' })
  for (const reading of ['20.4', '20.3']) {
    await ines.getByRole('button', { name: 'Type a reading' }).tap()
    for (const digit of reading) await pad.getByRole('button', { name: digit, exact: true }).tap()
    await ines.getByRole('button', { name: 'Take the reading' }).tap()
    await expect(ines.getByRole('dialog', { name: 'A reading of this moment' })).toHaveCount(0)
  }
  const now = petra.getByRole('region', { name: 'The test now' })
  await expect(now).toContainText('20.3')
  await now.getByRole('button', { name: 'Leak found' }).focus()
  await petra.keyboard.press('Enter')
  await expect(now.getByRole('list', { name: 'Marked' })).toContainText('Leak found')
  await now.getByRole('button', { name: 'Strike' }).focus()
  await petra.keyboard.press('Enter')
  await expect(now.getByRole('list', { name: 'Marked' })).toHaveCount(0)
})
