import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { findProject } from '../server/db/projects'
import { verifyRecord } from '../server/services/verify'
import { Device } from '../tests/browser/device'
import { asOwner } from '../tests/server/connect'
import { dot } from '../tests/server/picture'
import { startSite } from '../tests/site'

/**
 * A shift without a signal: 500 entries with 40 photos through the screen, the browser killed three times,
 * then everything goes out while the server is killed twice and its database once. Both sides are counted.
 *   tsx bench/soak.ts [entries, 500]
 */
const ENTRIES = Number(process.argv[2] ?? 500)
/** every so manyth is a photo: 40 of 500 at least */
const EVERY = 12
const PHOTOS = Math.floor(ENTRIES / EVERY)
const KILLS = 3
const site = startSite(4560)
process.env.VET_LINE_TEST_ADDRESS = site.address
const device = new Device()
const pid = (file: string) => Number(readFileSync(join(site.data, 'run', file), 'utf8'))
const pause = (ms: number) => new Promise((done) => setTimeout(done, ms))
const waits = (page: Page, n: number) => page.getByText(new RegExp(`^No signal.* ${n} entr(y|ies) waits? `))

async function remark(page: Page, text: string) {
  await page.getByRole('button', { name: 'Remark', exact: true }).click()
  const dialog = page.getByRole('dialog', { name: 'Remark' })
  await dialog.getByLabel('Remark').fill(text)
  await dialog.getByRole('button', { name: 'Record' }).click()
  await dialog.waitFor({ state: 'hidden' })
}
const photo = (page: Page, name: string) =>
  page
    .locator('input[type=file]')
    .first()
    .setInputFiles({ name, mimeType: 'image/png', buffer: Buffer.from(dot, 'base64') })

const db = asOwner(site.data)
try {
  const crew = (await db('crews').where({ name: 'Crew Dunes' }).first('id')).id as string
  const joints: string[] = await db('joints')
    .where({ crew })
    .whereNotNull('opened_at')
    .whereNotIn('state', ['accepted', 'withdrawn'])
    .limit(8)
    .pluck('id')
  const fed = Number((await db('entries').max('feed as n').first())!.n)
  let page = await device.start()
  await device.signIn('sorrel')
  await device.takeAlong()
  await device.context.setOffline(true)
  await page.reload()
  await device.unlock()
  await page.getByRole('navigation', { name: 'Views' }).waitFor()
  const started = Date.now()
  for (let n = 1; n <= ENTRIES; n++) {
    const restart = n % Math.ceil(ENTRIES / (KILLS + 1)) === 0
    if (restart) {
      await device.kill()
      page = await device.start(true)
      await device.unlock()
      await waits(page, n - 1).waitFor()
    }
    if (restart || n % 12 === 1) {
      const joint = joints[Math.floor(n / 12) % joints.length]!
      await page.goto(`${site.address}/joints/${joint}`)
      // A page that begins anew without a signal opens with the PIN.
      const pin = page.getByLabel('PIN')
      const foot = page.getByRole('button', { name: 'Remark', exact: true })
      await pin.or(foot).first().waitFor()
      if (await pin.isVisible()) await device.unlock()
      await foot.waitFor()
    }
    const isPhoto = n % EVERY === 0
    if (isPhoto) await photo(page, `soak ${n}.png`)
    else await remark(page, `soak ${n}`)
    await waits(page, n).waitFor()
  }
  console.log(
    `${ENTRIES} entries recorded without a signal in ${((Date.now() - started) / 1000).toFixed(0)} s`,
  )

  await device.context.setOffline(false)
  const sign = page.getByRole('button', { name: 'Sign in to send it' })
  const going = Date.now()
  await page.evaluate(() => window.dispatchEvent(new Event('online')))
  await sign.or(page.getByText('Sending:')).or(page.getByText('All sent')).first().waitFor()
  if (await sign.isVisible()) {
    await sign.click()
    await device.signIn('sorrel')
  }
  for (const victim of ['server.pid', 'database.pid', 'server.pid']) {
    await pause(400)
    try {
      process.kill(pid(victim), 'SIGKILL')
    } catch {
      // It is starting again since the kill before.
    }
  }
  await page.getByText('All sent').waitFor({ timeout: 300_000 })
  console.log(
    `all sent in ${((Date.now() - going) / 1000).toFixed(0)} s, server and database killed meanwhile`,
  )

  const rows: { kind: string; payload: string; late: string | null }[] = await db('entries')
    .where('feed', '>', fed)
    .whereIn('subject', joints)
    .select('kind', 'payload', 'late')
  const said = rows.map(
    (r) => /soak (\d+)/.exec(JSON.stringify(JSON.parse(r.payload)))?.[1] ?? `other: ${r.kind}`,
  )
  const distinct = new Set(said)
  const missing = Array.from({ length: ENTRIES }, (_v, i) => String(i + 1)).filter((n) => !distinct.has(n))
  const photos = rows.filter((r) => r.kind === 'photo').length
  const late = rows.filter((r) => r.late !== null).length
  const { faults } = await verifyRecord(db, [(await findProject(db, 'skerry-head'))!])
  console.log(
    `on the device ${ENTRIES} entries, ${PHOTOS} of them photos; on the server ${rows.length}, ${photos}; ` +
      `missing ${missing.length}, twice ${rows.length - distinct.size}, late ${late}, faults ${faults.length}`,
  )
  if (missing.length > 0 || rows.length !== distinct.size || late > 0 || faults.length > 0)
    process.exitCode = 1
} catch (error) {
  console.error(error)
  process.exitCode = 1
} finally {
  await device.end()
  await db.destroy()
  site.stop()
}
