import { readdirSync, readFileSync, lstatSync } from 'node:fs'
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { DateTime } from 'luxon'
import { stateWords } from '../../app/words'
import { demoPin } from '../../demo/people'
import { loadSystem, type SampleAnswer, type System } from '../../demo/system-records'
import { dot } from '../server/picture'
import { Device } from './device'
import { address, atStep, choose, heading, person, read, step, toJoint, view } from './people'
import { sound } from './sound'
import { expect, test } from './test'

const bar = (page: Page) => page.getByRole('status').filter({ hasText: /No signal|wait/ })
const answered = (page: Page, title: string) =>
  expect(step(page, title)).toHaveAccessibleName(`${title}: Accepted`)

test('a crew lead works without a signal, the browser is killed, and everything arrives once', async () => {
  const device = new Device()
  try {
    let page = await device.start()
    await device.signIn('sorrel')
    await device.takeAlong()
    await device.context.setOffline(true)

    await page.reload()
    await expect(page.getByText('No signal. Open the work on this device with your PIN.')).toBeVisible()
    await device.unlock()
    await expect(page.getByRole('heading', { name: 'To do now' })).toBeVisible()
    await atStep(page, 'GS-17', 'Tools laid out')
    await page.getByRole('button', { name: 'Yes', exact: true }).click()
    await answered(page, 'Tools laid out')
    await expect(bar(page)).toContainText('1 entry waits since')
    await step(page, 'Chips and cracks').click()
    await page
      .getByRole('radio', { name: 'None', exact: true })
      .or(page.getByRole('button', { name: 'None', exact: true }))
      .click()
    await answered(page, 'Chips and cracks')
    await expect(bar(page)).toContainText('2 entries wait since')

    await step(page, 'Pipe end sound').click()
    await page
      .locator('input[type=file]')
      .setInputFiles({ name: 'end.png', mimeType: 'image/png', buffer: Buffer.from(dot, 'base64') })
    await expect(bar(page)).toContainText('3 entries wait with 1 photo since')

    await device.kill()
    page = await device.start(true)
    await device.unlock()
    await expect(bar(page)).toContainText('3 entries wait with 1 photo since')
    await atStep(page, 'GS-17', 'Protected')
    await answered(page, 'Tools laid out')
    await answered(page, 'Chips and cracks')
    await page.getByRole('button', { name: 'Yes', exact: true }).click()
    await answered(page, 'Protected')
    const joint = page.url().match(/joints\/([\w-]+)/)![1]!

    await device.comeBack('sorrel')
    await expect(bar(page)).toHaveCount(0)
    const sheet = await page.evaluate(
      (path) => fetch(path).then((r) => r.json()),
      `/api/projects/skerry-head/joints/${joint}`,
    )
    const made = (sheet as { entries: { step: string; kind: string; lateReason: string | null }[] }).entries
    for (const one of ['tools', 'damage', 'ppe', 'sound'])
      expect(
        made.filter((e) => e.step === one && e.kind !== 'strike').map((e) => e.lateReason),
        one,
      ).toEqual([null])
  } finally {
    await device.end()
  }
})

test('what is on the device is nothing without the PIN, and five wrong ones lock it until there is a signal', async () => {
  const device = new Device()
  try {
    let page = await device.start()
    await device.signIn('sorrel')
    await device.takeAlong()
    await page.goto(`${address()}/line`)
    await expect(heading(page, /.+/)).toBeVisible()
    await device.context.setOffline(true)
    await page.reload()
    for (let i = 0; i < 4; i++) {
      await device.unlock('9999')
      await expect(page.getByRole('alert')).toContainText('This PIN opens nothing here')
    }
    await device.unlock('9999')
    await expect(page.getByRole('alert')).toContainText('Five wrong PINs')
    await device.unlock()
    await expect(page.getByRole('alert')).toContainText('Five wrong PINs')
    await device.kill()

    const found: string[] = []
    const names = ['Haddowfen', 'GS-17', 'Crew Dunes', 'Chips and cracks', 'Skerry']
    const look = (folder: string) => {
      for (const name of readdirSync(folder)) {
        const path = join(folder, name)
        const is = lstatSync(path)
        if (is.isDirectory()) look(path)
        else if (is.isFile()) {
          const bytes = readFileSync(path)
          for (const word of names)
            if (bytes.includes(Buffer.from(word)) || bytes.includes(Buffer.from(word, 'utf16le')))
              found.push(`${word} in ${path.slice(device.profile.length)}`)
        }
      }
    }
    look(device.profile)
    expect(found).toEqual([])

    // With a signal it opens again, by itself, for whoever is signed in.
    page = await device.start()
    await device.signIn('sorrel')
    await expect(page.getByRole('navigation', { name: 'Views' })).toBeVisible()
    await device.context.setOffline(true)
    await page.reload()
    await device.unlock()
    await expect(page.getByRole('heading', { name: 'To do now' })).toBeVisible()
  } finally {
    await device.end()
  }
})

test('two devices without a signal answer one step differently: both stand, and an inspector decides', async () => {
  const [crew, inspector] = [new Device(), new Device()]
  try {
    for (const [device, name] of [
      [crew, 'sorrel'],
      [inspector, 'ines'],
    ] as const) {
      await device.start()
      await device.signIn(name)
      await device.takeAlong()
      await device.context.setOffline(true)
      await device.page.reload()
      await device.unlock()
      await atStep(device.page, 'SO-17', 'Tools laid out')
    }
    await crew.page.getByRole('button', { name: 'Yes', exact: true }).click()
    await answered(crew.page, 'Tools laid out')
    await inspector.page.getByRole('button', { name: 'No', exact: true }).click()
    await expect(step(inspector.page, 'Tools laid out')).toHaveAccessibleName('Tools laid out: Rejected')
    for (const device of [crew, inspector]) {
      await device.context.setOffline(false)
      await device.page.evaluate(() => window.dispatchEvent(new Event('online')))
      await expect(device.page.getByText('All sent')).toBeVisible()
    }
    await crew.page.reload()
    await expect(step(crew.page, 'Tools laid out')).toHaveAccessibleName(
      `Tools laid out: ${stateWords.differs}`,
    )
  } finally {
    await crew.end()
    await inspector.end()
  }
})

test('without a signal a joint is opened, a fault reported and a hold released on the spot; all of it arrives', async ({
  browser,
}) => {
  const device = new Device()
  try {
    let page = await device.goAway('tam')

    await toJoint(page, 'RM-246')
    await expect(heading(page, 'Open joint RM-246')).toBeVisible()
    await sound(page)
    for (const [place, nth] of [
      ['Upstream pipe', 0],
      ['Downstream pipe', 1],
      ['Fitting', 0],
    ] as const) {
      await page.getByRole('combobox', { name: place }).click()
      await page.getByRole('option').locator('visible=true').nth(nth).click()
    }
    const like = page.getByRole('button', { name: /^Same as at/ })
    if (await like.isVisible()) await like.click()
    await page.getByRole('button', { name: 'Open the joint' }).click()
    await expect(bar(page)).toContainText('1 entry waits since')
    await step(page, 'Tools laid out').click()
    await page.getByRole('button', { name: 'No', exact: true }).click()
    await expect(step(page, 'Tools laid out')).toHaveAccessibleName('Tools laid out: Rejected')
    await page.getByRole('button', { name: 'Raise it' }).click()
    await expect(page.getByText('The report waits on this device for a signal.')).toBeVisible()

    await atStep(page, 'RM-234', 'Hold before fusion')
    await page.getByRole('button', { name: 'An inspector releases here' }).click()
    const dialog = page.getByRole('dialog', { name: 'Release on this device' })
    await expect(dialog).toBeVisible()
    await sound(page, '[role=dialog]')
    await dialog.getByRole('combobox', { name: 'Who releases' }).press('Enter')
    await page.getByRole('option', { name: 'Ines' }).click()
    await dialog.getByLabel('Your PIN').fill(demoPin)
    await dialog.getByLabel('Once more').fill('1357')
    await dialog.getByRole('button', { name: 'Release', exact: true }).click()
    await expect(dialog.getByRole('alert')).toContainText('The two PINs differ')
    await dialog.getByLabel('Your PIN').fill(demoPin)
    await dialog.getByLabel('Once more').fill(demoPin)
    await dialog.getByRole('button', { name: 'Release', exact: true }).click()
    await answered(page, 'Hold before fusion')
    await expect(page.getByText('on the crew’s device without a signal')).toBeVisible()

    await toJoint(page, 'RM reach 45')
    await step(page, 'Lifts beside and over the pipe').click()
    await page.getByText('Both sides', { exact: true }).click()
    await choose(page, 'Material', 'Sand')
    await page.getByLabel('Loose thickness, mm').fill('200')
    await page.getByRole('spinbutton', { name: 'Passes' }).fill('4')
    await page.getByText('Damp', { exact: true }).click()
    await page.getByText('Yes', { exact: true }).click()
    await page.getByRole('button', { name: 'Record', exact: true }).click()
    await expect(page.getByRole('list', { name: 'Record of this step' })).toContainText('200 mm loose')
    await view(page, 'Clocks')
    await expect(heading(page, 'Clocks')).toBeVisible()

    // All of it outlives the battery.
    await device.kill()
    page = await device.start(true)
    await device.unlock()
    await expect(bar(page)).toContainText('5 entries wait since')
    await atStep(page, 'RM-246', 'Tools laid out')
    await expect(page.getByText('The report waits on this device for a signal.')).toBeVisible()

    await device.comeBack('tam')
    await expect(bar(page)).toHaveCount(0)
    await expect(page.getByText('refused:')).toHaveCount(0)
    const ines = await person(browser, 'ines')
    await atStep(ines, 'RM-246', 'Tools laid out')
    await expect(ines.getByRole('link', { name: /^NCR-/ })).toBeVisible()
    await atStep(ines, 'RM-234', 'Hold before fusion')
    await answered(ines, 'Hold before fusion')
    await expect(ines.getByText('on the crew’s device without a signal')).toBeVisible()
  } finally {
    await device.end()
  }
})

/** What was answered in a sample record at a step, given through the screen. */
async function answerAs(page: Page, system: System, answer: SampleAnswer) {
  const { compiled } = system
  const { step: made } = compiled.steps[compiled.stepIndex.get(answer.step)!]!
  await step(page, made.title).click()
  await expect(heading(page, made.title)).toBeVisible()
  if (answer.release) await page.getByRole('button', { name: 'Everything is ready: request release' }).click()
  else if (answer.values) await read(page, made.title, answer.values)
  else if (answer.lot && made.check.kind === 'lot') {
    // The butyl strip of the register: a lot that nobody has entered is refused on arrival.
    await page.getByLabel(made.check.question).fill('SL-3')
    const made200DaysAgo = DateTime.now().minus({ days: 200 }).toFormat('d LLL yyyy')
    await page.getByLabel('Production date').fill(made200DaysAgo)
    await page.getByLabel('Production date').press('Enter')
    await page.getByRole('button', { name: 'Record', exact: true }).first().click()
  } else if (answer.choice !== undefined && made.check.kind === 'choice') {
    const { title } = made.check.choices.find((c) => c.key === answer.choice)!
    await page.getByRole('button', { name: title, exact: true }).click()
  } else await page.getByRole('button', { name: 'Yes', exact: true }).click()
  const word = answer.release ? stateWords.held : stateWords.accepted
  await expect(step(page, made.title)).toHaveAccessibleName(`${made.title}: ${word}`)
}
const photograph = (page: Page) =>
  page
    .locator('input[type=file]')
    .first()
    .setInputFiles({ name: 'joint.png', mimeType: 'image/png', buffer: Buffer.from(dot, 'base64') })

test('three joints of different systems are worked to their hold without a signal, with photos', async ({
  browser,
}) => {
  const device = new Device()
  try {
    let page = await device.goAway('milo')
    let recorded = 0
    for (const [number, key] of [
      ['TC-04', 'bolted-coupling'],
      ['WL-06', 'preinsulated-shrink-casing'],
    ] as const) {
      const system = loadSystem(key)
      const { conforming } = system.sample
      await toJoint(page, number)
      await expect(page.getByRole('heading', { level: 2, name: number })).toBeVisible()
      for (const answer of conforming.slice(0, conforming.findIndex((a) => a.release) + 1)) {
        const { title } = system.compiled.steps[system.compiled.stepIndex.get(answer.step)!]!.step
        const at = step(page, title)
        // What does not apply to this joint is not asked, and what was answered stands.
        if ((await at.count()) === 0) continue
        const done = page.getByRole('button', { name: `${title}: ${stateWords.accepted}`, exact: true })
        if ((await done.count()) > 0) continue
        await answerAs(page, system, answer)
        recorded += answer.release ? 2 : 1
      }
      await photograph(page)
      recorded++
      await expect(bar(page)).toContainText(`${recorded} entries wait with`)
    }
    // The third stands at its hold already; the inspector who is there releases it.
    const nipple = loadSystem('abs-preinsulated-nipple')
    const hold = nipple.sample.conforming.find((a) => a.release)!
    const { title } = nipple.compiled.steps[nipple.compiled.stepIndex.get(hold.step)!]!.step
    await atStep(page, 'WL-12', title)
    await photograph(page)
    await expect(bar(page)).toContainText(`${recorded + 1} entries wait with 3 photos since`)
    await device.kill()
    page = await device.start(true)
    await device.unlock()
    await expect(bar(page)).toContainText(`${recorded + 1} entries wait with 3 photos since`)

    await device.comeBack('milo')
    await expect(page.getByText('refused:')).toHaveCount(0)
    const ines = await person(browser, 'ines')
    for (const number of ['TC-04', 'WL-06', 'WL-12']) {
      await toJoint(ines, number)
      await expect(ines.getByRole('heading', { level: 2, name: number })).toBeVisible()
      await expect(ines.getByRole('img', { name: stateWords.held }).first()).toBeVisible()
    }
  } finally {
    await device.end()
  }
})
