import type { Page } from '@playwright/test'
import { address, choose, demoReach, heading, person } from './people'
import { sound } from './sound'
import { expect, test } from './test'

const PHONE = { viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true }
const REACH = 'GS reach 90'

const tap = (page: Page, name: string) => page.getByRole('button', { name, exact: true }).tap()
/** The bar’s way on, after a reading that stays to be read. */
const on = (page: Page) =>
  page
    .locator('.bar')
    .getByRole('button', { name: /^Next: / })
    .tap()
async function yes(page: Page, ...titles: string[]) {
  for (const title of titles) {
    await expect(heading(page, title)).toBeVisible()
    await tap(page, 'Yes')
  }
}
async function read(page: Page, title: string, ...readings: string[]) {
  await expect(heading(page, title)).toBeVisible()
  for (const [i, reading] of readings.entries()) await page.locator('.slots input').nth(i).fill(reading)
  await tap(page, 'Record')
  await on(page)
}
/** What the drawing says of the fill; it unfolds over the sheet. */
async function drawn(page: Page, says: RegExp, view?: string) {
  await tap(page, 'Drawing')
  if (view) await page.getByRole('radiogroup', { name: 'What is drawn' }).getByText(view).tap()
  await expect(page.getByRole('img', { name: says })).toBeVisible()
  await tap(page, 'Drawing')
}

test('a reach is worked from its trench to its survey on a phone, by touch; the drawing follows', async ({
  browser,
}) => {
  await demoReach(browser, REACH)
  const sorrel = await person(browser, 'sorrel', undefined, PHONE)
  await sorrel.goto(`${address()}/embedment`)
  await expect(heading(sorrel, 'Embedment')).toBeVisible()
  await sorrel.getByRole('link', { name: new RegExp(REACH) }).tap()

  await test.step('trench and bed', async () => {
    await yes(sorrel, 'Trench looked at', 'Services located')
    await read(sorrel, 'Trench width at the pipe', '800 mm')
    await expect(heading(sorrel, 'Support of the trench')).toBeVisible()
    await tap(sorrel, 'Not at all')
    await yes(sorrel, 'Spoil and pipe back', 'Way out', 'Water below the bed')
    await yes(sorrel, 'Bottom clean')
    await read(sorrel, 'Level of the trench bottom', '99.88 m')
    await yes(sorrel, 'Native soil whole')
    await expect(heading(sorrel, 'Bed material')).toBeVisible()
    await tap(sorrel, 'Granular as specified')
    await read(sorrel, 'Thickness of the bed', '120 mm')
    await yes(sorrel, 'Bed compacted', 'Bell holes')
  })

  await test.step('levels, both ways', async () => {
    await expect(heading(sorrel, 'Inverts')).toBeVisible()
    const cell = (name: string, row: number, text: string) =>
      sorrel.getByRole('textbox', { name: `${name}, row ${row}` }).fill(text)
    await cell('Back', 1, '1.2')
    for (const [row, station, design] of [
      [2, '500', '100'],
      [3, '506', '99.97'],
    ] as const) {
      await cell('Between', row, String(Math.round((102.7 - Number(design)) * 1000) / 1000))
      await cell('Station, m', row, station)
      await cell('Design, m', row, design)
    }
    await cell('Fore', 4, '1.2')
    await expect(sorrel.getByText('Both ways agree, and the sums prove each other.')).toBeVisible()
    await tap(sorrel, 'Record')
    // The sheet goes on to the next step, and its drawing with it; a person may look back.
    await expect(heading(sorrel, 'Off line')).toBeVisible()
    await drawn(sorrel, /^Inverts of 2 pipes against design, 0 of them wrong/, 'Levels')
    await read(sorrel, 'Off line', '4 mm')
  })

  await test.step('lifts', async () => {
    for (const [thickness, level] of [
      ['200', 170],
      ['200', 340],
      ['200', 510],
      ['250', 723],
    ] as const) {
      await expect(heading(sorrel, 'Lifts beside and over the pipe')).toBeVisible()
      await sorrel.getByRole('radiogroup', { name: 'Side' }).getByText('Both sides').tap()
      await sorrel.getByLabel('Loose thickness, mm').fill(thickness)
      if (level === 170) {
        await choose(sorrel, 'Material', 'Rounded gravel')
      }
      await sorrel.getByRole('spinbutton', { name: 'Passes' }).fill('4')
      await sorrel.getByRole('radiogroup', { name: 'Moisture' }).getByText('Damp').tap()
      await sorrel.getByRole('radiogroup', { name: 'Tamped under the haunch' }).getByText('Yes').tap()
      await tap(sorrel, 'Record')
      if (level < 700) await drawn(sorrel, new RegExp(`^Fill ${level} mm left, ${level} mm right`))
    }
    await yes(sorrel, 'No jetting')
  })

  await test.step('density and the end of the day', async () => {
    await expect(heading(sorrel, 'Density of the fill')).toBeVisible()
    // Where it is tested is drawn by the tool.
    await sorrel.locator('.places button').first().tap()
    await sorrel.getByLabel(/^Wet density/).fill('2120')
    await sorrel.getByLabel(/^Moisture/).fill('6')
    await sorrel.getByLabel(/^Maximum/).fill('2061')
    await tap(sorrel, 'Record')
    await yes(sorrel, 'Filled to the top', 'Open end closed')
  })

  await test.step('a survey the same evening does not count', async () => {
    await expect(heading(sorrel, 'Deflection survey')).toBeVisible()
    for (const [i, station] of ['500', '503', '506'].entries()) {
      await sorrel.getByRole('textbox', { name: `Station, row ${i + 1}` }).fill(station)
      await sorrel.getByRole('textbox', { name: `Upright, row ${i + 1}` }).fill('285')
    }
    await tap(sorrel, 'Record')
    await expect(
      sorrel.getByText('Measured before the fill had rested: measure again later.').first(),
    ).toBeVisible()
    await drawn(sorrel, /^Deflection at 3 stations, at most 1\.7 %/)
    await sound(sorrel)
  })
})
