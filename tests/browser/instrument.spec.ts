import { atStep, heading, person, step } from './people'
import { expect, test } from './test'

/** An instrument that is a keyboard: it types its reading and Enter, and nobody touches the screen. */
test('a rule that types records both readings without a tap', async ({ browser }) => {
  const sorrel = await person(browser, 'sorrel')
  const title = 'Bell edge to homing mark, upstream end'
  await atStep(sorrel, 'SO-10', title)
  await expect(heading(sorrel, title)).toBeVisible()
  const [left, right] = [
    sorrel.getByRole('textbox', { name: 'left' }),
    sorrel.getByRole('textbox', { name: 'right' }),
  ]
  await expect(left).toBeFocused()
  await sorrel.keyboard.type('1.5')
  await sorrel.keyboard.press('Enter')
  await expect(right).toBeFocused()
  await sorrel.keyboard.type('-2')
  await sorrel.keyboard.press('Enter')
  await step(sorrel, title).click()
  const record = sorrel.getByRole('list', { name: 'Record of this step' })
  await expect(record).toContainText('1.5')
  await expect(record).toContainText('-2')
  await sorrel.context().close()
})
