import { uuidv7 } from 'uuidv7'
import { computed, ref, shallowRef } from 'vue'
import { rolesFor } from '#core/access'
import { instrumentFacts } from '#core/checks/instruments'
import { judge } from '#core/judgement/judge'
import type { JudgeOptions } from '#core/judgement/types'
import { compileProcedure, type CompiledProcedure } from '#core/procedure/compile'
import type { Condition } from '#core/judgement/asked'
import type { Entry, EntryKind } from '#core/record/entry'
import type { jointSheet, reachSheet } from '../../server/services/worksheet'
import { makeOutbox } from '~/composables/outbox'
import { asOpenedHere } from '~/device/opening'
import { keepRelease, releasesHere } from '~/device/release-here'
import { isRefusal, keepAndSend, postEntries } from '~/device/sender'
import { canWait, waitingList } from '~/device/waiting'
import { useSession } from '~/stores/session'

export type JointReply = Awaited<ReturnType<typeof jointSheet>>
export type ReachReply = Awaited<ReturnType<typeof reachSheet>>
/** What every worksheet has, whatever is worked on it. */
export type Sheet = JointReply | ReachReply

const addresses = { joint: 'joints', reach: 'reaches' } as const

/** An entry with the stamp that the device had when it was recorded. */
type Recorded = Entry & { stamp: string | null }

export type DecisionKind = 'release' | 'refusal' | 'waiver' | 'decision'

/** A sign-off at a hold point, or a word on what was recorded. */
export interface Decision {
  kind: DecisionKind
  verdict?: 'accept' | 'reject' | 'again'
  /** the answer that stands */
  stands?: string
  /** the lot that a waiver lets through */
  lot?: string
  /** the steps that a waiver leaves open */
  waives?: string[]
  /** what later steps must show besides, of a release */
  conditions?: Condition[]
}

/**
 * Something at work: its record and judgement, and what a person adds to it. A dry run has the same shape,
 * and keeps nothing.
 */
export type AtWork = ReturnType<typeof useWorksheet<Sheet>>

/**
 * One joint or reach on this device: its record, judged here at once with the same core as the
 * server, and what a person adds to it.
 */
export function useWorksheet<S extends Sheet>(type: keyof typeof addresses, id: string) {
  const session = useSession()
  const address = `${session.base}/${addresses[type]}/${id}`
  const now = useNow()
  const compiled = shallowRef<CompiledProcedure | null>(null)
  /** recorded here, not acknowledged yet */
  const pending = ref<Entry[]>([])
  const onTheirWay = new Set<string>()
  const { data: sheet, problem, loading, load: fetchSheet } = useLoad(() => api<S>(address))

  async function load() {
    await fetchSheet()
    if (sheet.value) sheet.value = await asOpenedHere(address, sheet.value)
    const known = new Set(sheet.value?.entries.map((e) => e.id))
    const kept = (await waitingList<Recorded>(address)).filter((w) => !w.refused).flatMap((w) => w.entries)
    // Of what was refused meanwhile nothing stands here any more.
    const going = pending.value.filter((e) => !canWait() || onTheirWay.has(e.id))
    const waiting = new Map([...going, ...kept, ...(await releasesHere(address))].map((e) => [e.id, e]))
    pending.value = [...waiting.values()].filter((e) => !known.has(e.id))
    if (sheet.value?.procedure && compiled.value?.procedure.revision !== sheet.value.procedure.revision)
      compiled.value = compileProcedure(sheet.value.procedure)
  }

  const entries = computed<Entry[]>(() => [...(sheet.value?.entries ?? []), ...pending.value])
  const options = computed<JudgeOptions>(() => ({
    rule: sheet.value?.rule,
    zone: session.zone,
    schools: sheet.value?.schools,
    plan: sheet.value?.plan,
    beside: sheet.value?.beside,
    ...(sheet.value?.tested === undefined ? {} : { tested: sheet.value.tested }),
    ...(sheet.value?.drawn === undefined ? {} : { drawn: sheet.value.drawn }),
    ...(sheet.value?.notice == null ? {} : { notice: sheet.value.notice }),
    instruments: instrumentFacts(sheet.value?.instruments ?? []),
    lots: sheet.value?.lots ?? {},
  }))
  const judgement = computed(() =>
    compiled.value && sheet.value
      ? judge(compiled.value, sheet.value.subject.facts, entries.value, now.value, options.value)
      : null,
  )

  const sendNow = makeOutbox<Recorded>((made) => postEntries(address, made), isRefusal)

  /** On a device that has its work along, what is recorded lies there before the screen says so. */
  async function send(made: Recorded[]): Promise<'sent' | 'waits'> {
    if (canWait()) return keepAndSend(address, made[0]!.recordedAt, made)
    await sendNow(made)
    return 'sent'
  }

  /** Judged here at once, before it is sent; taken back with its reason when the server refuses it. */
  async function record(
    news: {
      kind: EntryKind
      step: string | null
      payload: Record<string, unknown>
      instrument?: string | null
    }[],
  ) {
    const at = deviceNow()
    const stamp = currentStamp()
    const made = news.map((n, i): Recorded => ({
      stamp,
      id: uuidv7(),
      kind: n.kind,
      step: n.step,
      payload: n.payload,
      person: session.person!.id,
      role: rolesFor('record').find((r) => session.roles.includes(r)) ?? 'crew-lead',
      crew: null,
      instrument: n.instrument ?? null,
      recordedAt: at + i,
    }))
    pending.value = [...pending.value, ...made]
    now.value = deviceNow()
    for (const { id } of made) onTheirWay.add(id)
    try {
      if ((await send(made)) === 'waits') return
    } catch (error) {
      const ids = new Set(made.map((m) => m.id))
      pending.value = pending.value.filter((e) => !ids.has(e.id))
      throw error
    } finally {
      for (const { id } of made) onTheirWay.delete(id)
    }
    await load()
  }

  /** A release by somebody else on this device, while there is no signal. */
  async function releaseHere(given: { key: string; step: string; by: string; pin: string; reason: string }) {
    await keepRelease(address, { ...given, at: deviceNow() })
    await load()
  }

  /** A sign-off, sent with the PIN. */
  async function decide(step: string, decision: Decision, reason: string, secret: string) {
    await api(`${address}/release`, {
      body: { id: uuidv7(), step, reason, secret, ...decision },
    })
    await load()
  }

  /** A word at a witness point: of the witness by a route of its own, of the crew like every entry. */
  async function witness(
    step: string,
    kind: 'invitation' | 'reply' | 'attendance',
    payload: Record<string, unknown>,
  ) {
    if (session.can('record')) return record([{ kind, step, payload }])
    await api(`${address}/witness`, { body: { id: uuidv7(), step, kind, payload } })
    await load()
  }

  /** Who reads the record: it is in order, a question about it, or that somebody stood by. */
  async function read(step: string, kind: 'review' | 'query' | 'watch', payload: Record<string, unknown>) {
    await api(`${address}/reading`, { body: { id: uuidv7(), step, kind, payload } })
    await load()
  }

  return {
    dry: false,
    address,
    sheet,
    compiled,
    entries,
    judgement,
    now,
    problem,
    loading,
    load,
    record,
    decide,
    releaseHere,
    witness,
    read,
  }
}
