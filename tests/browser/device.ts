import { spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chromium, type BrowserContext, type Page } from '@playwright/test'
import { demoPassword, demoPeople, demoPin } from '../../demo/people'
import config from '../../playwright.config'
import { address } from './people'

/** The button with one's own name opens what concerns the device. */
const surnames = new RegExp(demoPeople.map((p) => p.name.split(' ').at(-1)).join('|'))

/** A device: a browser whose profile stays when it is closed, or killed. */
export class Device {
  readonly profile = mkdtempSync(join(tmpdir(), 'vet-line-device-'))
  context!: BrowserContext
  page!: Page

  async start(off = false): Promise<Page> {
    const { launchOptions, viewport } = config.use!
    this.context = await chromium.launchPersistentContext(this.profile, {
      ...launchOptions,
      viewport,
      serviceWorkers: 'allow',
    })
    this.context.setDefaultTimeout(60_000)
    await this.context.setOffline(off)
    this.page = this.context.pages()[0] ?? (await this.context.newPage())
    await this.page.goto(address())
    return this.page
  }
  async signIn(name: string) {
    await this.page.getByLabel('Sign-in name').fill(name)
    await this.page.getByLabel('Password').fill(demoPassword)
    await this.page.getByRole('button', { name: 'Sign in' }).click()
    await this.page.getByRole('navigation', { name: 'Views' }).waitFor()
  }
  /** The work of these days comes onto the device. */
  async takeAlong() {
    const { page } = this
    await page.getByRole('button', { name: surnames }).click()
    await page.getByRole('menuitem', { name: 'Work without a signal' }).click()
    const dialog = page.getByRole('dialog', { name: 'Work without a signal' })
    await dialog.getByLabel('Your PIN').fill(demoPin)
    await dialog.getByRole('button', { name: 'Take the work along' }).click()
    await dialog.getByText('This device has your work').waitFor()
    await dialog.getByRole('button', { name: 'Back' }).click()
    // The application itself is kept once the browser has had a quiet moment.
    await page.evaluate(() => navigator.serviceWorker.ready.then((r) => r.active?.state))
  }
  async unlock(pin = demoPin) {
    await this.page.getByLabel('PIN').fill(pin)
    await this.page.getByRole('button', { name: 'Open', exact: true }).click()
  }
  /** Starts, takes the work along, and goes where there is no signal; the work is opened by the PIN there. */
  async goAway(name: string): Promise<Page> {
    const page = await this.start()
    await this.signIn(name)
    await this.takeAlong()
    await this.context.setOffline(true)
    await page.reload()
    await this.unlock()
    return page
  }
  /** A signal again: everything goes out. A session that did not survive is begun anew. */
  async comeBack(name: string) {
    await this.context.setOffline(false)
    // The cookie of a session had not been written when the battery went.
    const sign = this.page.getByRole('button', { name: 'Sign in to send it' })
    const sent = this.page.getByText('All sent')
    await sign.or(sent).waitFor()
    if (await sign.isVisible()) {
      await sign.click()
      await this.signIn(name)
    }
    await sent.waitFor()
  }
  /** As when the battery goes. */
  async kill() {
    const closed = this.context.waitForEvent('close')
    spawnSync('pkill', ['-9', '-f', this.profile])
    await closed
  }
  async end() {
    await this.context.close().catch(() => undefined)
    rmSync(this.profile, { recursive: true, force: true })
  }
}
