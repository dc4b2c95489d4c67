import { uuidv7 } from 'uuidv7'
import type { LogMap } from '#core/pressure/log-map'
import type { MarkKind } from '#core/pressure/marks'
import { useSession } from '~/stores/session'

interface TakenLog {
  csv: string
  map: LogMap
}

/**
 * What is done with a test pack: each sends, then loads again; what was refused is said in `fault`.
 *
 * @param load loads the pack again
 */
export function useTestActions(id: string, load: () => Promise<void>) {
  const session = useSession()
  const path = `${session.base}/packs/${id}`
  const { busy, words: fault, send } = useSending()
  const attempt = async (act: () => Promise<void>) => void (await send(act))
  /** a log of another time or with a hole in it, waiting for an engineer's word */
  const foreign = shallowRef<{ log: TakenLog | null; sentence: string } | null>(null)

  const post = async (what: string, body: unknown) => {
    await api(`${path}/${what}`, { method: 'POST', body })
    await load()
  }
  const sendLog = (log: TakenLog | null, reason: string) =>
    log === null ? post('finish', { reason }) : post('log', { ...log, reason })
  /** Ends the run with the log of a file, or with what the logger has sent. */
  const endRun = (log: TakenLog | null) =>
    attempt(async () => {
      try {
        await sendLog(log, '')
      } catch (error) {
        // A log of another time, or with a hole in it, counts only by an engineer's word.
        const byWord = ['other-time', 'log-hole']
        if (!(error instanceof ApiProblem && byWord.includes(error.code))) throw error
        if (!session.can('take-foreign-log')) throw error
        foreign.value = { log, sentence: error.message }
      }
    })
  return {
    ...{ path, fault, busy, foreign, post, endRun },
    confirm: (row: string, picture: Blob | null = null) =>
      attempt(async () => {
        const sent = picture && (await api<{ id: string }>(`${session.base}/files`, { body: picture }))
        const photo = sent?.id ?? null
        await post('confirm', { row, photo })
      }),
    sayWitness: (kind: string, payload: Record<string, unknown>) =>
      attempt(() => post('witness', { id: uuidv7(), kind, payload })),
    answerAfter: (row: string, answer: string) => attempt(() => post('after', { row, answer })),
    mark: (kind: MarkKind) =>
      attempt(() => post('mark', { id: uuidv7(), kind, at: new Date(deviceNow()).toISOString() })),
    unmark: (mark: string) => attempt(() => post('unmark', { mark })),
    start: () => attempt(() => post('start', {})),
    leaveForeign: () => void (foreign.value = null),
    takeForeign: (reason: string) => sendLog(foreign.value!.log, reason),
    typeReading: (reading: { pressure: number; pipe: number | null; makeup: number | null }) =>
      api<never>(`${path}/samples`, {
        body: { samples: [{ ...reading, at: new Date(deviceNow()).toISOString() }] },
      }),
    raise: () =>
      attempt(async () => {
        const { id: ncr } = await api<{ id: string }>(`${session.base}/ncrs`, {
          body: { id: uuidv7(), subjectType: 'pack', subject: id },
        })
        await navigateTo(`/ncrs/${ncr}`)
      }),
  }
}
