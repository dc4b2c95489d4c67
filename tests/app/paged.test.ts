import { describe, expect, it } from 'vitest'
import { ApiProblem } from '../../app/composables/useApi'
import { usePaged } from '../../app/composables/usePaged'

/** A server with so many rows, whose replies wait until they are let go. */
function server(total: number) {
  const asked: number[] = []
  const open: { reply: () => void; refuse: (error: unknown) => void }[] = []
  const read = (from: number, count: number) => {
    asked.push(from)
    return new Promise<{ total: number; items: number[] }>((done, refuse) =>
      open.push({
        refuse,
        reply: () =>
          done({ total, items: Array.from({ length: Math.min(count, total - from) }, (_v, i) => from + i) }),
      }),
    )
  }
  const tick = () => new Promise((done) => setImmediate(done))
  return {
    asked,
    read,
    async reply() {
      open.shift()!.reply()
      await tick()
    },
    async refuse(error: unknown) {
      open.shift()!.refuse(error)
      await tick()
    },
    async drain() {
      while (open.length > 0) await this.reply()
    },
  }
}

async function begun(total: number) {
  const s = server(total)
  const list = usePaged(s.read)
  void list.restart()
  await s.reply()
  return { s, list }
}

describe('a long list', () => {
  it('knows how many there are after the first page', async () => {
    const { list } = await begun(20_000)
    expect(list.total.value).toBe(20_000)
    expect(list.rows.value[99]).toBe(99)
    expect(list.rows.value[100]).toBeUndefined()
  })

  it('loads both pages that a view looks into, once', async () => {
    const { s, list } = await begun(20_000)
    list.want(195, 210)
    list.want(196, 211)
    await s.drain()
    expect(s.asked).toEqual([0, 100, 200])
    expect(list.rows.value.slice(195, 211)).toEqual(Array.from({ length: 16 }, (_v, i) => 195 + i))
  })

  it('does not ask for what was scrolled past: where the person stopped comes next', async () => {
    const { s, list } = await begun(20_000)
    for (let at = 1000; at <= 18_000; at += 500) list.want(at, at + 10)
    await s.drain()
    expect(s.asked).toEqual([0, 1000, 1500, 18_000])
    expect(list.rows.value[18_005]).toBe(18_005)
  })

  it('asks for nothing outside the list', async () => {
    const { s, list } = await begun(150)
    list.want(-20, 900)
    await s.drain()
    expect(s.asked).toEqual([0, 100])
  })

  it('replies to an earlier question are passed over', async () => {
    const { s, list } = await begun(300)
    list.want(250, 260)
    void list.restart()
    await s.drain()
    expect(list.rows.value[250]).toBeUndefined()
    list.want(250, 260)
    await s.drain()
    expect(list.rows.value[250]).toBe(250)
  })

  it('says that there was no signal, and asks again when the place is looked at again', async () => {
    const { s, list } = await begun(300)
    list.want(210, 215)
    await s.refuse(new ApiProblem('off-line', 'No signal.', null, 0))
    expect(list.problem.value?.code).toBe('off-line')
    expect(s.asked).toEqual([0, 200])
    list.want(210, 215)
    await s.drain()
    expect(list.problem.value).toBeNull()
    expect(list.rows.value[210]).toBe(210)
  })
})
