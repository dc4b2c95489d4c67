import { beforeEach, describe, expect, it } from 'vitest'
import { nextTick, ref } from 'vue'
import { ApiProblem } from '../../app/composables/useApi'
import { useAnswering } from '../../app/composables/useAnswering'
import { useStepAddress } from '../../app/composables/useStepAddress'
import type { StepJudgement } from '../../core/judgement/types'
import type { Entry } from '../../core/record/entry'
import { T0, yes } from '../core/entries'
import { said, useRoute, useRouter, visited } from './nuxt'

beforeEach(() => {
  visited.length = 0
  said.length = 0
  useRoute().query = {}
})

describe('the step stands in the address', () => {
  it('one that a person chooses is a place to come back to; one that opens by itself takes its place', () => {
    const { current, go, goOn } = useStepAddress(() => false)
    go('a')
    goOn('b')
    go('b')
    expect(current.value).toBe('b')
    expect(visited.map((v) => [v.how, v.to.query?.step])).toEqual([
      ['push', 'a'],
      ['replace', 'b'],
    ])
  })
  it('a link opens its step, and Back goes to the one before', async () => {
    useRoute().query = { step: 'a', x: '1' }
    const { current, go } = useStepAddress(() => false)
    expect(current.value).toBe('a')
    go('b')
    await nextTick()
    expect(useRoute().query).toEqual({ step: 'b', x: '1' })
    await useRouter().replace({ query: { step: 'a' } })
    await nextTick()
    expect(current.value).toBe('a')
  })
  it('a dry run inside another page leaves the address alone', () => {
    useRoute().query = { step: 'of the page' }
    const { current, go, goOn } = useStepAddress(() => true)
    expect(current.value).toBeNull()
    go('a')
    goOn('b')
    expect([current.value, visited]).toEqual(['b', []])
  })
})

describe('recording the answer of the step at hand', () => {
  function sheet(
    record: (sent: unknown[]) => Promise<void>,
    entries: Entry[] = [],
    judged: Partial<StepJudgement> | null = null,
    plain = true,
  ) {
    const current = ref<string | null>('square')
    const log: string[] = []
    const put: string[][] = []
    // Clearing the places clears what was kept of them.
    const clear = () => {
      log.push('clear')
      answering.drafts.delete('square')
    }
    const answering = useAnswering({
      record,
      current,
      judged: ref(judged as StepJudgement | null),
      ofStep: ref(entries),
      plain: ref(plain),
      form: ref({ clear, put: (texts: string[]) => void put.push(texts) }),
      goOn: (from) => void log.push(`on from ${from}`),
      back: (step) => void log.push(`back to ${step}`),
    })
    return { ...answering, current, log, put }
  }
  const reading = { kind: 'reading' as const, payload: { values: [0.001], typed: ['1 mm'] } }
  const confirmed = { kind: 'confirmation' as const, payload: { answer: 'yes' } }

  it('a plain answer opens the next step without waiting; a measured verdict stays to be read', async () => {
    let arrive = () => {}
    const s = sheet(() => new Promise<void>((done) => (arrive = done)))
    const sent = s.answer([confirmed])
    expect([s.log, s.busy.value]).toEqual([['on from square'], true])
    arrive()
    await sent
    expect(s.busy.value).toBe(false)
    const measured = sheet(() => Promise.resolve(), [], null, false)
    await measured.answer([reading])
    expect(measured.log).toEqual(['clear'])
  })
  it('a second answer of the same step waits for the first', async () => {
    const sent: unknown[] = []
    let arrive = () => {}
    const s = sheet((entries) => new Promise<void>((done) => ((arrive = done), sent.push(entries))))
    const first = s.answer([confirmed])
    await s.answer([confirmed])
    arrive()
    await first
    expect(sent).toEqual([[{ ...confirmed, step: 'square' }]])
  })
  it('what is refused comes back to where it was typed, with the reason', async () => {
    const refuse = () => Promise.reject(new ApiProblem('future', 'Dated in the future.', 'recordedAt', 422))
    const s = sheet(refuse, [], null, false)
    s.drafts.set('square', ['1 mm'])
    await s.answer([reading])
    expect([s.put, said, s.log.at(-1)]).toEqual([[['1 mm']], ['Dated in the future.'], 'back to square'])
    expect(s.busy.value).toBe(false)
  })
  it('and is said in full where others stand in its place already', async () => {
    const s = sheet(async () => {
      // The places are free at once; somebody types on before the refusal comes.
      await nextTick()
      s.drafts.set('square', ['7'])
      throw new ApiProblem('future', 'Dated in the future.', null, 422)
    })
    s.drafts.set('square', ['1 mm', '2 mm'])
    await s.answer([reading])
    expect([s.put, said]).toEqual([[], ['Dated in the future. Not recorded: 1 mm; 2 mm.']])
  })
  it('after a rejection that nobody has decided about it waits for its reason', async () => {
    const sent: unknown[][] = []
    const rejected: Partial<StepJudgement> = {
      state: 'rejected',
      entry: 'e',
      ncr: null,
      faults: [],
      computed: null,
      release: { state: 'none', at: null, by: null, reason: null },
    }
    const s = sheet(
      (entries) => Promise.resolve(void sent.push(entries)),
      [{ ...yes('square', 1), id: 'e', recordedAt: T0 }],
      rejected,
    )
    await s.answer([confirmed])
    expect([sent, s.againOpen.value]).toEqual([[], true])
    await s.answerAgain('Cut again.')
    expect(sent).toEqual([
      [{ kind: 'confirmation', step: 'square', payload: { answer: 'yes', reason: 'Cut again.' } }],
    ])
    expect(s.againOpen.value).toBe(false)
  })
})
