import { setTimeout as sleep } from 'node:timers/promises'
import { chromium } from '@playwright/test'
import { demoPassword } from '../demo/people'
import { scheme } from '../demo/scheme'
import { PipeUnderTest, shutIn } from '../devices/pipe'
import { Outbox, packByNumber, signIn } from '../devices/site'
import { startSite } from '../tests/site'

/**
 * A running test on screen while ten readings a second arrive: the time between frames.
 *   bench/live.ts [minutes]
 */
const MINUTES = Number(process.argv[2] ?? 10)
const COUNT = `
  frames = []; counting = true; last = performance.now();
  next = (t) => { frames.push(t - last); last = t; if (counting) requestAnimationFrame(next) };
  requestAnimationFrame(next); 0`
const site = startSite(4520)
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--headless', '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run'],
})
try {
  const cookie = await signIn(site.address, 'ines', demoPassword)
  const pack = await packByNumber(site.address, scheme.key, 'TP-I1', cookie)
  const outbox = new Outbox({ address: site.address, project: scheme.key, pack }, cookie)
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
  await page.goto(`${site.address}/sign-in`)
  await page.getByLabel('Sign-in name').fill('ines')
  await page.getByLabel('Password').fill(demoPassword)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await page.getByRole('navigation', { name: 'Views' }).waitFor()
  await page.goto(`${site.address}/tests/${pack}`)
  await page.getByRole('img', { name: 'Pressure over time' }).waitFor()
  const begun = Date.now()
  const pipe = new PipeUnderTest(shutIn(1500, 4), begun - 3_600_000)
  await page.evaluate(COUNT)
  let sent = 0
  while (Date.now() - begun < MINUTES * 60_000) {
    for (let i = 0; i < 10; i++) {
      const reading = pipe.read(Date.now() + i)
      if (reading) outbox.add(reading)
      sent++
      await sleep(100)
    }
    await outbox.send()
  }
  const frames = ((await page.evaluate('counting = false, frames')) as number[]).slice(2)
  const sorted = frames.sort((a, b) => a - b)
  const at = (share: number) => sorted[Math.floor(sorted.length * share)]!.toFixed(1)
  console.log(
    `${sent} readings in ${MINUTES} min: ${frames.length} frames, median ${at(0.5)} ms (20 asked), ` +
      `p95 ${at(0.95)} ms, worst ${at(0.999)} ms`,
  )
} finally {
  await browser.close()
  site.stop()
}
