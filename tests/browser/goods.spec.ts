import { readFile } from 'node:fs/promises'
import {
  address,
  choose,
  heading,
  lookAtOrders,
  openSelect,
  person,
  signOff,
  step,
  toJoint,
  typeDay,
  view,
} from './people'
import { expect, test } from './test'

const today = (offset = 0) => new Date(Date.now() + offset * 86_400_000).toISOString().slice(0, 10)

test('orders and a note with foreign headings, a sample that passes, and a signature', async ({
  browser,
}) => {
  const ines = await person(browser, 'ines')
  await lookAtOrders(ines, 'samples/orders.csv')
  await expect(ines.getByText('2 lines, 44 pieces')).toBeVisible()
  await ines.getByRole('button', { name: 'Import 2 orders' }).click()
  await expect(ines.getByRole('heading', { name: 'PO-141' })).toBeVisible()

  await ines.getByRole('link', { name: 'Notes' }).click()
  await ines.getByRole('button', { name: 'Import a delivery note' }).click()
  await choose(ines, 'Order', /PO-140/)
  await ines.getByLabel('Note as CSV').last().setInputFiles('samples/delivery-other-headings.csv')
  await expect(ines.getByRole('alert')).toContainText('Say which column is Item, Class, Lot, Quantity')
  for (const [column, word] of [
    ['Item', 'Artikel'],
    ['Class', 'Druckstufe'],
    ['Lot', 'Charge'],
    ['Quantity', 'Stück'],
    ['Serial', 'Nr.'],
    ['Note number', 'Lieferschein'],
  ] as const)
    await choose(ines, column, word)
  await expect(
    ines.getByRole('heading', { name: 'DN-2213: 14 rows, 14 pieces, against the order' }),
  ).toBeVisible()
  await expect(ines.getByText('16 short of 24 ordered.')).toBeVisible()
  await ines.getByRole('button', { name: 'Import 14 rows' }).click()

  await ines
    .getByRole('group', { name: 'Samples' })
    .getByRole('button', { name: /PE-63-11/ })
    .click()
  await ines.getByRole('button', { name: /^Draw the sample of/ }).click()
  const said = ines.getByText(/^\d+ of the sample to look at; the rest waits for it/)
  const drawn = parseInt(await said.innerText())
  expect(drawn).toBeGreaterThan(0)
  // The list comes by itself, before the sentence or after it.
  await expect(ines.getByRole('option', { name: /sample/ })).toHaveCount(drawn)
  await ines
    .getByRole('option', { name: /To inspect/ })
    .first()
    .click()
  for (let n = drawn; n > 0; n--) {
    await ines.getByRole('button', { name: 'Accept', exact: true }).click()
    await expect(ines.getByRole('option', { name: /To inspect/ })).toHaveCount(n - 1)
  }
  await ines
    .getByRole('group', { name: 'Samples' })
    .getByRole('button', { name: /PE-63-11/ })
    .click()
  await expect(ines.getByText('The sample passed:')).toBeVisible()
  await choose(ines, 'Which items', 'All items')
  await ines.getByRole('button', { name: /^Accept the other/ }).click()
  await ines.getByRole('button', { name: 'Sign the note' }).click()
  await expect(ines.getByRole('dialog').getByText('16 short of 24 ordered.')).toBeVisible()
  await signOff(ines, 'Sign')
  await expect(ines.getByText(/^Signed /)).toBeVisible()
  const notice = await ines.request.get(
    new URL(
      (await ines.getByRole('link', { name: 'Notice to the supplier' }).getAttribute('href'))!,
      address(),
    ).href,
  )
  expect((await notice.body()).subarray(0, 5).toString()).toBe('%PDF-')
})

test('a label printed here is read back from its picture, into a note', async ({ browser }) => {
  const ines = await person(browser, 'ines')
  await view(ines, 'Deliveries')
  await ines.getByRole('link', { name: 'Lots' }).click()
  await ines.getByLabel('Find a lot').fill('CE-9')
  await ines.getByRole('option', { name: /CE-9/ }).click()
  await ines.getByRole('button', { name: 'Label', exact: true }).click()
  const download = ines.waitForEvent('download')
  await ines.getByRole('button', { name: 'Save as picture' }).click()
  const picture = await readFile((await (await download).path())!)
  await ines.getByRole('button', { name: 'Back' }).click()

  await ines.getByRole('link', { name: 'Notes' }).click()
  await ines.getByRole('button', { name: 'Import a delivery note' }).click()
  await choose(ines, 'Order', /PO-126/)
  await ines.getByText('Labels or keyboard').click()
  await ines.getByRole('button', { name: 'Read a label' }).click()
  await ines.getByLabel('Label as text').fill('(01)09520000003013')
  await ines.getByRole('button', { name: 'Read', exact: true }).click()
  await expect(ines.getByRole('dialog').getByRole('alert')).toContainText('check digit')
  await ines
    .getByLabel('Picture of the label')
    .setInputFiles({ name: 'label.png', mimeType: 'image/png', buffer: picture })
  await expect(ines.getByLabel('What the label says')).toContainText('CE-9')
  await ines.getByRole('button', { name: 'Use it' }).click()
  await expect(ines.getByRole('list', { name: 'Rows of the note' }).getByRole('listitem')).toContainText(
    'CEM-CPVC',
  )
  await ines.getByLabel('Number of the note').fill('DN-LABEL')
  await ines.getByRole('button', { name: 'Hold it against the order' }).click()
  await expect(ines.getByText('1 more than ordered.')).toBeVisible()
  await ines.getByRole('button', { name: 'Import 1 row' }).click()
  await expect(ines.getByRole('heading', { name: 'DN-LABEL' })).toBeVisible()
})

test('expired cement blocks the step until somebody waives it by name', async ({ browser }) => {
  const milo = await person(browser, 'milo')
  await toJoint(milo, 'CD-05')
  await step(milo, 'Cement').click()
  await expect(heading(milo, 'Cement')).toBeVisible()
  await milo.getByLabel('Lot of the cement').fill('CE-3')
  await expect(milo.getByText('It is past its date: take another lot.')).toBeVisible()
  await milo.getByRole('button', { name: 'Record', exact: true }).first().click()
  await expect(step(milo, 'Cement')).toHaveAccessibleName('Cement: Rejected')
  await expect(milo.getByText(/not used without a waiver/).first()).toBeVisible()
  await expect(milo.getByRole('button', { name: 'Use it by waiver …' })).toHaveCount(0)

  const ines = await person(browser, 'ines')
  await toJoint(ines, 'CD-05')
  await step(ines, 'Cement').click()
  await ines.getByRole('button', { name: 'Use it by waiver …' }).click()
  await signOff(ines, 'Waive', { label: 'Why?', text: 'Tested by the maker on Monday.' })
  await expect(step(ines, 'Cement')).toHaveAccessibleName('Cement: Accepted')
  await expect(
    ines.getByText('is used past its date by waiver: Tested by the maker on Monday.'),
  ).toBeVisible()
})

test('a lot put into quarantine is offered for no joint; its trace leads to drafted reports', async ({
  browser,
}) => {
  const ines = await person(browser, 'ines')
  await toJoint(ines, 'RM-299')
  await expect(
    (await openSelect(ines, 'Upstream pipe')).getByRole('option', { name: /L2417/ }).first(),
  ).toBeVisible()
  await view(ines, 'Deliveries')
  await ines.getByRole('link', { name: 'Trace' }).click()
  await ines.getByLabel('Trace from').fill('L2417')
  await ines.getByRole('option', { name: /Lot L2417/ }).click()
  await expect(ines.getByRole('heading', { name: 'Lot L2417' })).toBeVisible()
  await expect(ines.getByRole('img', { name: /Rising main: \d+ joints/ })).toBeVisible()
  await ines.getByRole('button', { name: 'Quarantine all this touches' }).click()
  const dialog = ines.getByRole('dialog')
  const boxes = dialog.getByRole('list', { name: 'Joints to report on' }).getByRole('checkbox')
  await expect.poll(() => boxes.count()).toBeGreaterThan(50)
  // Only the first two are in question.
  await dialog.getByRole('button', { name: 'None', exact: true }).click()
  for (const i of [0, 1]) await boxes.nth(i).check()
  const joints = await Promise.all([0, 1].map(async (i) => (await boxes.nth(i).getAttribute('aria-label'))!))
  await dialog.getByRole('button', { name: 'Quarantine', exact: true }).click()
  await expect(dialog.getByRole('alert')).toContainText('Say why')
  await dialog.getByLabel('Why?').fill('Wall too thin by the maker’s own report.')
  await dialog.getByRole('button', { name: 'Quarantine', exact: true }).click()
  await expect(dialog.getByText(/^2 reports drafted, \d+ pieces not built in are quarantined/)).toBeVisible()
  await dialog.getByRole('link', { name: 'To the reports' }).click()
  for (const joint of joints) await expect(ines.getByText(`Joint ${joint}`).first()).toBeVisible()
  await toJoint(ines, 'RM-299')
  const offered = await openSelect(ines, 'Upstream pipe')
  await expect(offered.getByRole('option').first()).toBeVisible()
  await expect(offered.getByRole('option', { name: /L2417/ })).toHaveCount(0)
})

test('the yard: a round with a finding, a stack, and a lift that is refused', async ({ browser }) => {
  const ines = await person(browser, 'ines')
  await view(ines, 'Deliveries')
  await ines.getByRole('link', { name: 'Yard' }).click()
  await ines.getByRole('option', { name: /Cement cabinet/ }).click()
  await ines.getByRole('button', { name: 'Do the round' }).click()
  for (const question of [
    'Out of the sun?',
    'Tins closed, opening dates written on them?',
    'Quarantined items apart and marked?',
  ])
    await ines.getByRole('radiogroup', { name: question }).getByText('Yes').click()
  await ines.getByLabel('Temperature here, °C').fill('31')
  await ines.getByRole('button', { name: 'Record the round' }).click()
  await expect(ines.getByText('31 °C is over the 25 °C that what lies here stands.')).toBeVisible()
  await expect(ines.getByRole('option', { name: /Cement cabinet.*1 finding/ })).toBeVisible()

  await ines.getByText('Plan a stack').click()
  await ines.getByText('Concrete', { exact: true }).click()
  for (const [label, text] of [
    ['Nominal size', '400 mm'],
    ['Outside diameter', '500 mm'],
    ['Length', '2.5 m'],
    ['How many', '10'],
  ] as const)
    await ines.getByLabel(label, { exact: true }).fill(text)
  await expect(ines.getByRole('img', { name: 'Stack of 10 in 4 layers, 1.75 m high' })).toBeVisible()
  await ines.getByText('Plan a lift').click()
  await choose(ines, 'Held by', 'Chain')
  await expect(ines.getByText('nylon slings only', { exact: false }).first()).toBeVisible()
  await choose(ines, 'Held by', 'Nylon slings')
  await ines.getByLabel('How many at once').fill('9')
  await expect(ines.getByText(/is over the plate of 2000 kg/)).toBeVisible()
})

test('an opening date of a tin starts its own shorter life', async ({ browser }) => {
  const ines = await person(browser, 'ines')
  await view(ines, 'Deliveries')
  await ines.getByRole('link', { name: 'Lots' }).click()
  await ines.getByLabel('Find a lot').fill('PR-5')
  await ines.getByRole('option', { name: /PR-5/ }).click()
  await typeDay(ines, 'Opened', today(-61))
  await ines.getByRole('button', { name: 'Enter the dates' }).click()
  await expect(ines.getByText('life after opening')).toBeVisible()
  await expect(ines.getByText('Not used in a step without a waiver that names it.')).toBeVisible()
  await typeDay(ines, 'Opened', '')
  await ines.getByRole('button', { name: 'Enter the dates' }).click()
  await expect(ines.getByText('printed expiry')).toBeVisible()
})
