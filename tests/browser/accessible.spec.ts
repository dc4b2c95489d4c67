import type { Page } from '@playwright/test'
import { address, person, step, toJoint, view } from './people'
import { axe, settled } from './sound'
import { expect, test } from './test'

const views: [name: string, open: (page: Page) => Promise<void>][] = [
  [
    'Today',
    async (page) => {
      await view(page, 'Today')
      await expect(page.getByRole('heading', { name: 'Crews standing' })).toBeVisible()
    },
  ],
  [
    'Read and watch',
    async (page) => {
      await page.getByRole('link', { name: 'Read and watch' }).click()
      await expect(page.getByRole('heading', { name: 'To be read' })).toBeVisible()
    },
  ],
  [
    'Line',
    async (page) => {
      await view(page, 'Line')
      await expect(page.getByText('Read as a table')).toBeVisible()
    },
  ],
  [
    'Joint',
    async (page) => {
      await toJoint(page, 'RM-235')
      await expect(page.getByLabel('Drawing and clocks')).toBeVisible()
    },
  ],
  [
    'Deliveries',
    async (page) => {
      await view(page, 'Deliveries')
      await expect(page.getByRole('link', { name: 'DN-2201' })).toBeVisible()
    },
  ],
  [
    'Delivery',
    async (page) => {
      await view(page, 'Deliveries')
      await page.getByRole('link', { name: 'DN-2201' }).click()
      await expect(page.getByLabel('Find an item')).toBeVisible()
    },
  ],
  [
    'Embedment',
    async (page) => {
      await view(page, 'Embedment')
      await page.getByRole('link', { name: /RM reach 43/ }).click()
      await expect(page.getByLabel('Loose thickness, mm')).toBeVisible()
    },
  ],
  [
    'Test',
    async (page) => {
      await view(page, 'Tests')
      await page.getByRole('link', { name: 'TP-01' }).click()
      await expect(page.getByRole('img', { name: 'Pressure over time' })).toBeVisible()
    },
  ],
  [
    'NCRs',
    async (page) => {
      await view(page, 'NCRs')
      await page.getByRole('link', { name: /NCR-0001/ }).click()
      await expect(page.getByText('Criterion against reading')).toBeVisible()
    },
  ],
  [
    'Procedures',
    async (page) => {
      await view(page, 'Procedures')
      await page.getByRole('link', { name: /Electrofusion socket.*Issued/ }).click()
      await expect(page.getByText('Where practice differs')).toBeVisible()
    },
  ],
  [
    'Clocks',
    async (page) => {
      await view(page, 'Clocks')
      await expect(page.getByRole('heading', { name: /Running/ })).toBeVisible()
    },
  ],
  [
    'Setup',
    async (page) => {
      await view(page, 'Setup')
      await expect(page.getByText('Calliper C-2')).toBeVisible()
    },
  ],
  [
    'Delivery item',
    async (page) => {
      await view(page, 'Deliveries')
      await page.getByRole('link', { name: 'DN-2205' }).click()
      await page.getByRole('option').first().click()
      await page.getByText('Measured', { exact: true }).click()
      await expect(page.getByText('Not measured yet')).toBeVisible()
    },
  ],
  [
    'Sample',
    async (page) => {
      await page.getByRole('group', { name: 'Samples' }).getByRole('button').first().click()
      await expect(page.getByText('slips through')).toBeVisible()
    },
  ],
  [
    'Lots',
    async (page) => {
      await view(page, 'Deliveries')
      await page.getByRole('link', { name: 'Lots' }).click()
      await page.getByRole('option').first().click()
      await expect(page.getByRole('button', { name: 'Trace this lot' })).toBeVisible()
    },
  ],
  [
    'Yard',
    async (page) => {
      await page.getByRole('link', { name: 'Yard' }).click()
      await page.getByRole('button', { name: 'Do the round' }).click()
      await expect(page.getByText('still to look at')).toBeVisible()
    },
  ],
  [
    'Stack',
    async (page) => {
      await page.getByText('Plan a stack').click()
      await expect(page.getByRole('img', { name: /Stack of/ })).toBeVisible()
    },
  ],
  [
    'Lift',
    async (page) => {
      await page.getByText('Plan a lift').click()
      await expect(page.getByRole('img', { name: /Lift of/ })).toBeVisible()
    },
  ],
  [
    'Trace',
    async (page) => {
      await page.getByRole('link', { name: 'Trace' }).click()
      await page.getByLabel('Trace from').fill('L2406')
      await page.getByRole('option', { name: /L2406/ }).first().click()
      await expect(page.getByText('On the lines')).toBeVisible()
    },
  ],
  [
    'Orders',
    async (page) => {
      await page.getByRole('link', { name: 'Orders' }).click()
      await expect(page.getByRole('heading', { name: 'PO-118' })).toBeVisible()
    },
  ],
  [
    'Joint with bolts',
    async (page) => {
      await toJoint(page, 'TC-01')
      await step(page, 'Torque, every nut').click()
      await expect(page.getByText('pass 1 of 3')).toBeVisible()
    },
  ],
  [
    'Bench',
    async (page) => {
      await view(page, 'Bench')
      await page.getByRole('textbox', { name: 'Diameters' }).fill('400 mm; 404 mm')
      await expect(page.getByText('402 mm', { exact: false }).first()).toBeVisible()
    },
  ],
]

/** Views of who sets a project up. */
const setup = [
  '/setup/check',
  '/setup/people',
  '/setup/lines',
  '/setup/joints',
  '/setup/reaches',
  '/setup/lists/articles',
  '/setup/lists/people',
  '/projects',
]

type Shift = 'day' | 'night'
/** Names and order are the same by day and night: by night only what is seen is looked at once more. */
const rules: Record<Shift, string[] | null> = { day: null, night: ['color-contrast'] }

async function findings(page: Page, shift: Shift, name: string): Promise<string[]> {
  const found = rules[shift] ? axe(page).withRules(rules[shift]) : axe(page)
  const { violations } = await found.analyze()
  return violations
    .filter((v) => v.impact === 'serious' || v.impact === 'critical')
    .map(
      (v) =>
        `${name} by ${shift}: ${v.id} ${v.nodes
          .slice(0, 3)
          .map((n) => n.target.join(' '))
          .join(' | ')}`,
    )
}
/** What would scroll were there more in it, with nothing in it that keys can reach. */
const outOfReach = (page: Page) =>
  page.evaluate(() =>
    Array.from(document.querySelectorAll<HTMLElement>('body *'))
      .filter(
        (e) =>
          /auto|scroll/.test(getComputedStyle(e).overflow) &&
          e.clientHeight > 0 &&
          e.tabIndex < 0 &&
          !e.querySelector('a[href], button, input, select, textarea, [tabindex="0"]'),
      )
      .map((e) => `.${e.className} cannot be scrolled by keys`),
  )

/** From one shift to the other, once every colour has changed. */
async function change(page: Page, to: Shift) {
  const button = page.getByRole('button', { name: to === 'day' ? 'Day shift' : 'Night shift' })
  if (await button.isVisible()) await button.click()
  else {
    // Outside a project there is no such button: it is as it was left.
    await page.evaluate((s) => localStorage.setItem('vet-line-shift', s), to)
    await page.reload()
    await expect(page.getByRole('heading').first()).toBeVisible()
  }
  await settled(page)
}

/** Nothing serious is found on either shift, nor what would be with more data; what is, is said first. */
async function clean(page: Page, name: string) {
  const found = [...(await findings(page, 'day', name)), ...(await outOfReach(page))]
  await change(page, 'night')
  found.push(...(await findings(page, 'night', name)))
  await change(page, 'day')
  expect(found, found.join('\n')).toEqual([])
}

test.describe.configure({ mode: 'parallel' })
test('the views of an administrator have no serious accessibility finding on either shift', async ({
  browser,
}) => {
  const admin = await person(browser, 'admin')
  for (const path of setup) {
    await admin.goto(address() + path)
    await expect(admin.getByRole('heading').first()).toBeVisible()
    await clean(admin, path)
  }
})

test('every view has no serious accessibility finding on either shift', async ({ browser }) => {
  const ines = await person(browser, 'ines')
  for (const [name, open] of views) {
    await open(ines)
    await clean(ines, name)
  }
})
