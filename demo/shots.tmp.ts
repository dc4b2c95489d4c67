import { chromium } from '@playwright/test'
import { demoPassword } from './people'
const address = 'http://127.0.0.1:4310'
const [as, mode, ...specs] = process.argv.slice(2)
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--headless', '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'] })
const c = await b.newContext({ viewport: { width: 1280, height: 800 } })
const page = await c.newPage()
if (mode === 'night') await page.addInitScript(() => localStorage.setItem('vet-line-shift', 'night'))
page.on('pageerror', (e) => console.error('page error', e.message)); page.on('console', (m) => m.type() === 'error' && console.error(m.text()))
await page.goto(`${address}/sign-in`); await page.getByLabel('Sign-in name').fill(as!); await page.getByLabel('Password').fill(demoPassword); await page.getByRole('button', { name: 'Sign in' }).click(); await page.getByRole('navigation', { name: 'Views' }).waitFor()
for (const spec of specs) {
  const [name, path, w, h, click] = spec.split(',') as string[]
  await page.setViewportSize({ width: Number(w), height: Number(h) })
  if (path!.startsWith('J:')) {
    await page.goto(`${address}/line`); await page.getByRole('button', { name: 'Go to' }).click(); await page.getByRole('textbox', { name: 'Go to' }).fill(path!.slice(2)); await page.getByRole('option', { name: path!.slice(2) }).first().click(); await page.getByRole('contentinfo').or(page.locator('footer.bar')).first().waitFor()
  } else await page.goto(address + path)
  await page.waitForLoadState('networkidle')
  for (const x of (click ?? '').split('>').filter(Boolean)) { await page.getByRole(x.startsWith('@') ? 'link' : 'button', { name: x.replace('@', '') }).first().click(); await page.waitForLoadState('networkidle') }
  const wide = await page.evaluate(() => document.documentElement.scrollWidth)
  if (wide > Number(w)) console.log(name, 'is', wide, 'wide')
  await page.screenshot({ path: `/tmp/shot-${name}.png` })
}
await b.close()
