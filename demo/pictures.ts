import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { chromium, type Page } from '@playwright/test'
import { demoPassword } from './people'

/**
 * Takes one current picture of each main view from the running demo: `tsx demo/pictures.ts ADDRESS FOLDER
 * [name …]`.
 */
const [address = 'http://127.0.0.1:4180', folder = 'docs/screenshots', ...only] = process.argv.slice(2)
const browserArguments = [
  '--headless',
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
]

type Shot = { name: string; as: string; night?: boolean; go: (page: Page) => Promise<void> }

/** Opens a joint of the demo by its number through the go-to dialog. */
async function toJoint(page: Page, number: string, step?: string) {
  await page.goto(`${address}/line`)
  await page.getByText('Read as a table').waitFor()
  await page.keyboard.press('/')
  await page.getByRole('textbox', { name: 'Go to' }).fill(number)
  await page.getByRole('option', { name: number }).first().click()
  await page.getByLabel('Drawing and clocks').waitFor()
  if (step)
    await page
      .getByRole('navigation', { name: 'Steps' })
      .getByRole('button', { name: `${step}:` })
      .click()
}
const first = (page: Page, text: string | RegExp) => page.getByRole('link', { name: text }).first().click()

const shots: Shot[] = [
  {
    name: 'today',
    as: 'ines',
    go: async (page) => {
      await page.goto(address)
      await page.getByRole('heading', { name: 'Crews standing' }).waitFor()
    },
  },
  {
    name: 'line',
    as: 'ines',
    go: async (page) => {
      await page.goto(`${address}/line`)
      await page.getByText('Read as a table').waitFor()
    },
  },
  {
    name: 'joint',
    as: 'rhona',
    go: async (page) => {
      await toJoint(page, 'RM-235', 'Ovality')
    },
  },
  { name: 'joint-ends', as: 'milo', go: (page) => toJoint(page, 'IP-04', 'Install mark, downstream end') },
  { name: 'joint-hold', as: 'ines', go: (page) => toJoint(page, 'RM-234', 'Hold before fusion') },
  { name: 'joint-faces', as: 'sorrel', go: (page) => toJoint(page, 'GS-01', 'Lubricant on the bell only') },
  { name: 'joint-bolts', as: 'milo', night: true, go: (page) => toJoint(page, 'TC-01', 'Torque, every nut') },
  {
    name: 'clocks',
    as: 'ines',
    go: async (page) => {
      await page.goto(`${address}/clocks`)
      await page.getByRole('heading', { name: /Running/ }).waitFor()
    },
  },
  {
    name: 'compare',
    as: 'juno',
    go: async (page) => {
      await page.goto(`${address}/procedures`)
      await first(page, /Electrofusion socket.*In review/)
      await page.getByText('Compare', { exact: true }).click()
      await page.getByText('Two schools', { exact: true }).click()
      await page.getByText('Worked out for').waitFor()
    },
  },
  {
    name: 'new-line',
    as: 'admin',
    go: async (page) => {
      await page.goto(`${address}/setup/lines`)
      await page.getByRole('button', { name: 'Add a line' }).click()
      const file = page.getByLabel(/^Alignment/).last()
      await file.setInputFiles('samples/own-project/alignment.geojson')
      await page.getByRole('img', { name: /^The line from above/ }).waitFor()
      await file.setInputFiles('samples/own-project/profile.csv')
      await page.getByRole('img', { name: 'Long section of the line' }).waitFor()
      await page.getByRole('heading', { name: 'Lines' }).scrollIntoViewIfNeeded()
    },
  },
  {
    name: 'deliveries',
    as: 'ines',
    go: async (page) => {
      await page.goto(`${address}/deliveries`)
      await first(page, 'DN-2201')
      await page.getByLabel('Find an item').fill('P004')
      await page.getByRole('option', { name: /Quarantined/ }).click()
    },
  },
  {
    name: 'lots',
    as: 'ines',
    go: async (page) => {
      await page.goto(`${address}/deliveries/lots`)
      await page.getByRole('option').first().click()
      await page.getByRole('button', { name: 'Trace this lot' }).waitFor()
    },
  },
  {
    name: 'trace',
    as: 'ines',
    go: async (page) => {
      await page.goto(`${address}/deliveries/trace?kind=lot&value=L2411`)
      await page.getByText('On the lines').waitFor()
    },
  },
  {
    name: 'stack',
    as: 'ines',
    night: true,
    go: async (page) => {
      await page.goto(`${address}/deliveries/yard?view=stack`)
      await page.getByRole('img', { name: /Stack of/ }).waitFor()
    },
  },
  {
    name: 'embedment',
    as: 'ines',
    go: async (page) => {
      await page.goto(`${address}/embedment`)
      await first(page, /RM reach 43/)
      await page.getByText('at least 3 are due').first().waitFor()
    },
  },
  {
    name: 'test',
    as: 'hale',
    go: async (page) => {
      await page.goto(`${address}/tests`)
      await first(page, 'TP-01')
      await page.getByRole('img', { name: 'Pressure over time' }).waitFor()
    },
  },
  {
    name: 'nonconformance',
    as: 'petra',
    go: async (page) => {
      await page.goto(`${address}/ncrs`)
      await first(page, /NCR-0001/)
      await page.getByText('Criterion against reading').waitFor()
    },
  },
  {
    name: 'procedure',
    as: 'petra',
    go: async (page) => {
      await page.goto(`${address}/procedures`)
      await first(page, /Electrofusion socket.*Issued/)
      await page.getByText('Where practice differs').waitFor()
    },
  },
  {
    name: 'bench',
    as: 'tam',
    go: async (page) => {
      await page.goto(`${address}/bench?calculator=joint-gap`)
      await page.getByLabel('gaps').fill('10; 12; 14; 12')
      await page.getByLabel('diameter').fill('600')
    },
  },
]

mkdirSync(folder, { recursive: true })
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: browserArguments,
})
for (const shot of shots.filter((s) => only.length === 0 || only.includes(s.name))) {
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    colorScheme: shot.night ? 'dark' : 'light',
  })
  const page = await context.newPage()
  page.on('pageerror', (error) => console.error(shot.name, 'page error:', error.message))
  page.on(
    'console',
    (message) => message.type() === 'error' && console.error(shot.name, 'console:', message.text()),
  )
  if (shot.night) await page.addInitScript(() => localStorage.setItem('vet-line-shift', 'night'))
  if (shot.as) {
    await page.goto(`${address}/sign-in`)
    await page.getByLabel('Sign-in name').fill(shot.as)
    await page.getByLabel('Password').fill(demoPassword)
    await page.getByRole('button', { name: 'Sign in' }).click()
    await page.getByRole('navigation', { name: 'Views' }).waitFor()
  }
  try {
    await shot.go(page)
  } catch (error) {
    console.error(shot.name, error)
  }
  await page.evaluate(() => document.fonts.ready)
  await page.waitForLoadState('networkidle', { timeout: 1500 }).catch(() => undefined)
  await page.screenshot({ path: join(folder, `${shot.name}.png`) })
  await context.close()
}
await browser.close()
