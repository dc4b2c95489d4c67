import { gunzipSync } from 'node:zlib'
import { chromium } from '@playwright/test'
import { uuidv7 } from 'uuidv7'
import { demoPassword } from '../demo/people'
import { asOwner } from '../tests/server/connect'
import { startSite } from '../tests/site'

/**
 * A line with 20,000 joints: what its strip costs to load and to follow, and how it moves under the hand in
 * a browser without a screen.
 */
const JOINTS = 20_000
/** Counts the time between frames until `counting` is taken away; a text, as it runs in the page. */
const COUNT = `
  frames = []; counting = true; last = performance.now();
  next = (t) => { frames.push(t - last); last = t; if (counting) requestAnimationFrame(next) };
  requestAnimationFrame(next); 0`
const site = startSite(4500)
const db = asOwner(site.data)
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--headless', '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run'],
})
try {
  const model = await db('joints').where({ number: 'RM-001' }).first()
  const line = await db('alignments').where({ id: model.alignment }).first()
  const long = { id: uuidv7(), key: 'LONG', to: JOINTS * 12 }
  await db('alignments').insert({
    ...line,
    id: long.id,
    line_key: long.key,
    name: 'A long line',
    from_station: 0,
    to_station: long.to,
    profile: JSON.stringify(
      [0, 60, 120, 180, 240].map((km) => ({ station: km * 1000, elevation: 10 + (km % 7) })),
    ),
  })
  const states = ['accepted', 'accepted', 'accepted', 'in-work', 'held', 'rejected', 'not-started']
  const rows = Array.from({ length: JOINTS }, (_v, i) => ({
    ...model,
    id: uuidv7(),
    alignment: long.id,
    number: `LG-${String(i + 1).padStart(5, '0')}`,
    station: i * 12,
    upstream: null,
    downstream: null,
    fitting: null,
    state: i < 14_000 ? states[(i * 7919) % 97 === 0 ? 3 + (i % 3) : 0] : 'not-started',
    procedure_id: i < 14_000 ? model.procedure_id : null,
  }))
  for (let i = 0; i < rows.length; i += 500) await db('joints').insert(rows.slice(i, i + 500))

  const signIn = await fetch(`${site.address}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ signIn: 'ines', password: demoPassword }),
  })
  const cookie = signIn.headers.getSetCookie()[0]!.split(';')[0]!
  /** Bytes as they travel, and the time to the last of them. */
  async function get(path: string) {
    const { request } = await import('node:http')
    const start = performance.now()
    const chunks: Buffer[] = []
    await new Promise<void>((done, fail) => {
      request(
        `${site.address}/api/projects/skerry-head/${path}`,
        {
          headers: { cookie, 'accept-encoding': 'gzip' },
        },
        (reply) => {
          reply.on('data', (c: Buffer) => chunks.push(c))
          reply.on('end', done)
        },
      )
        .on('error', fail)
        .end()
    })
    const bytes = Buffer.concat(chunks)
    const text = bytes[0] === 0x1f ? gunzipSync(bytes) : bytes
    return { bytes: bytes.length, text: text.length, ms: performance.now() - start }
  }
  await get(`lines/${long.id}/strip`)
  const whole = await get(`lines/${long.id}/strip`)
  const change = await get(`lines/${long.id}/changes?joints=${rows[100]!.id}`)
  const burst = await get(
    `lines/${long.id}/changes?joints=${rows
      .slice(0, 50)
      .map((r) => r.id)
      .join(',')}`,
  )
  console.log(
    `whole strip  ${Math.round(whole.bytes / 1024)} kB packed (${Math.round(whole.text / 1024)} kB), ${Math.round(whole.ms)} ms`,
  )
  console.log(`one change   ${(change.bytes / 1024).toFixed(1)} kB, ${Math.round(change.ms)} ms`)
  console.log(`fifty        ${(burst.bytes / 1024).toFixed(1)} kB, ${Math.round(burst.ms)} ms`)

  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
  // The longest line is the one that a new device shows.
  await page.goto(`${site.address}/sign-in`)
  await page.getByLabel('Sign-in name').fill('ines')
  await page.getByLabel('Password').fill(demoPassword)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await page.getByRole('navigation', { name: 'Views' }).waitFor()
  await page.goto(`${site.address}/line`)
  await page.getByRole('img', { name: /joints from station/ }).waitFor()
  const box = (await page.locator('.strip').boundingBox())!
  for (const zoomed of [false, true]) {
    if (zoomed) for (let i = 0; i < 4; i++) await page.getByRole('button', { name: 'Zoom in' }).click()
    await page.evaluate(COUNT)
    const y = box.y + 100
    await page.mouse.move(box.x + 1000, y)
    await page.mouse.down()
    for (let i = 0; i < 240; i++) await page.mouse.move(box.x + 640 + 360 * Math.cos(i / 12), y)
    await page.mouse.up()
    const frames = ((await page.evaluate('counting = false, frames')) as number[]).slice(2)
    const sorted = frames.sort((a, b) => a - b)
    const at = (share: number) => sorted[Math.floor(sorted.length * share)]!.toFixed(1)
    console.log(
      `moved ${zoomed ? 'zoomed in' : 'whole line'}: ${frames.length} frames, ` +
        `median ${at(0.5)} ms, p95 ${at(0.95)} ms, worst ${at(0.999)} ms`,
    )
  }
} finally {
  await browser.close()
  await db.destroy()
  site.stop()
}
