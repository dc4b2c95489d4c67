import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { chromium, type Page } from '@playwright/test'
import { chromiumPath } from '../cli/browser'
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
  {
    name: 'clocks',
    as: 'ines',
    go: async (page) => {
      await page.goto(`${address}/clocks`)
      await page.getByRole('heading', { name: /Running/ }).waitFor()
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
    name: 'embedment',
    as: 'sorrel',
    go: async (page) => {
      await page.goto(`${address}/embedment`)
      await first(page, /SO reach 07/)
      await page.getByRole('img', { name: /^Fill/ }).waitFor()
    },
  },
  {
    name: 'deflection',
    as: 'ines',
    night: true,
    go: async (page) => {
      await page.goto(`${address}/embedment`)
      await first(page, /SO reach 06/)
      await page.getByRole('img', { name: /^Deflection at/ }).waitFor()
    },
  },
  {
    name: 'round',
    as: 'ines',
    go: async (page) => {
      await page.goto(`${address}/round`)
      await page.getByRole('img', { name: /^The round/ }).waitFor()
    },
  },
  {
    name: 'crew',
    as: 'ines',
    go: async (page) => {
      await page.goto(`${address}/crews`)
      await first(page, /Crew North/)
      await page.getByText('What was wrong').waitFor()
    },
  },
  {
    name: 'plan',
    as: 'petra',
    go: async (page) => {
      await page.goto(`${address}/procedures/plan?procedure=frp-threaded`)
      await page.getByText('To be reviewed').waitFor()
    },
  },
  {
    name: 'pack',
    as: 'petra',
    go: async (page) => {
      await page.goto(`${address}/tests/plan`)
      await page.getByText('Air gathers at').waitFor()
    },
  },
  {
    name: 'test',
    as: 'hale',
    go: async (page) => {
      await page.goto(`${address}/tests`)
      await first(page, 'TP-02')
      await page.getByRole('img', { name: 'Pressure over time' }).waitFor()
    },
  },
  {
    name: 'nonconformance',
    as: 'petra',
    go: async (page) => {
      await page.goto(`${address}/ncrs`)
      await first(page, /NCR-0018/)
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
    name: 'test-running',
    as: 'hale',
    go: async (page) => {
      await page.goto(`${address}/tests`)
      await first(page, 'TP-I1')
      await page.getByRole('link', { name: 'Watch' }).click()
      await page.waitForURL(/\/watch$/)
      await page.getByRole('region', { name: 'The test now' }).waitFor()
      await page.getByRole('img', { name: 'Pressure over time' }).waitFor()
    },
  },
]

mkdirSync(folder, { recursive: true })
const browser = await chromium.launch({
  executablePath: chromiumPath(),
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
