import { describe, expect, it } from 'vitest'
import { effectScope, nextTick, ref } from 'vue'
import { useDue, type Due } from '../../app/composables/useDue'

/** Reads anew whenever something comes due, as a view does; gives how often within some seconds. */
async function readings(due: (now: number) => Due[], seconds: number): Promise<number> {
  const now = ref(0)
  let read = due(0)
  let count = 0
  const scope = effectScope()
  scope.run(() =>
    useDue(
      now,
      () => read,
      () => {
        count++
        read = due(now.value)
      },
    ),
  )
  for (let s = 1; s <= seconds; s++) {
    now.value = s * 1000
    await nextTick()
  }
  scope.stop()
  return count
}

describe('What comes due is read anew once', () => {
  const at = (at: number | null, key = 'a'): Due => ({ key, at })
  it.each<[string, (now: number) => Due[], number]>([
    ['nothing is waited for', () => [], 0],
    ['it has no moment', () => [at(null)], 0],
    ['it lies ahead', () => [at(60_000)], 0],
    ['it was due long before it was read', () => [at(-60_000)], 0],
    ['it comes due', () => [at(5_000)], 1],
    ['it comes due between two looks', () => [at(4_400)], 1],
    ['two come due one after the other', () => [at(5_000), at(9_000, 'b')], 2],
    ['two come due together', () => [at(5_000), at(5_000, 'b')], 1],
    ['what is foreseen now is due again at every reading', (now) => [at(now)], 1],
    ['a clock is begun anew', (now) => [at(5_000 + (now >= 5_000 ? 10_000 : 0), `${now >= 5_000}`)], 2],
  ])('%s', async (_, due, times) => {
    expect(await readings(due, 20)).toBe(times)
  })
})
