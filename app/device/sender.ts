import { api, ApiProblem } from '../composables/useApi'
import { sendNumbered } from '../composables/numbered'
import { deviceNow, movedSince } from '../composables/useNow'
import {
  addWaiting,
  canWait,
  refuseWaiting,
  removeWaiting,
  waitingList,
  type Waiting,
  type WaitingAct,
  type WaitingPhoto,
} from './waiting'
import { uuidv7 } from 'uuidv7'

/** An entry as it goes out: as it was recorded, with the stamp that the device had then. */
export interface Outgoing {
  id: string
  kind: string
  step: string | null
  payload: Record<string, unknown>
  instrument: string | null
  recordedAt: number
  stamp: string | null
}

/** Entries in one request. */
const MOST = 50
const FIRST_PAUSE = 2000
const LONGEST_PAUSE = 60_000

const projectOf = (subject: string) => subject.split('/').slice(0, 2).join('/')

/** Sends entries of one subject, all or none. */
export const postEntries = (
  subject: string,
  entries: readonly (Outgoing & { moved?: boolean })[],
): Promise<void> =>
  sendNumbered(projectOf(subject), [...entries], (numbered) =>
    api(`${subject}/entries`, {
      body: {
        entries: numbered.map(
          ({ id, kind, step, payload, instrument, recordedAt, stamp, moved, number }) => ({
            id,
            kind,
            step,
            payload,
            instrument,
            stamp,
            moved,
            number,
            recordedAt: new Date(recordedAt).toISOString(),
          }),
        ),
      },
    }),
  )

const postPhoto = async (base: string, { id, mime, data }: WaitingPhoto): Promise<void> => {
  const bytes = Uint8Array.from(atob(data), (c) => c.charCodeAt(0))
  await api(`${base}/files?id=${id}`, { body: new Blob([bytes], { type: mime }) })
}

/** What is an entry in the end counts among what this device has recorded. */
function postAct(subject: string, { what, to, body }: WaitingAct, moved: boolean): Promise<unknown> {
  if (what === 'release')
    return sendNumbered(projectOf(subject), [{ ...body, moved }], ([numbered]) => api(to, { body: numbered }))
  if (what === 'open') return api(to, { body: { ...body, away: { ...(body.away as object), moved } } })
  return api(to, { body })
}

/** Refused for what it is, not for the moment: sent again it would be refused again. */
export const isRefusal = (error: unknown): error is ApiProblem =>
  error instanceof ApiProblem &&
  error.status >= 400 &&
  error.status < 500 &&
  ![401, 429].includes(error.status)

type Outcome = 'sent' | 'waits'
interface Waiter {
  done: (outcome: Outcome) => void
  failed: (error: unknown) => void
}
const waiters = new Map<number, Waiter>()
let running: Promise<void> | null = null
let again = false
let pause = FIRST_PAUSE
let timer: ReturnType<typeof setTimeout> | null = null
let told: (error: unknown) => void = () => undefined

/** Hears whenever the queue has become shorter or longer, and why nothing goes out. */
export const onQueue = (listener: (error: unknown) => void) => void (told = listener)

/** The first entries that wait, all of one subject. */
function bundleOf(list: readonly Waiting<Outgoing>[]): Waiting<Outgoing>[] {
  const bundle: Waiting<Outgoing>[] = []
  let size = 0
  for (const w of list) {
    if (bundle.length > 0 && [w, bundle[0]!].some((x) => x.photo || x.act)) break
    if (w.subject !== list[0]!.subject || (bundle.length > 0 && size + w.entries.length > MOST)) break
    bundle.push(w)
    size += w.entries.length
  }
  return bundle
}

async function deliver(bundle: readonly Waiting<Outgoing>[]): Promise<void> {
  const [{ subject, photo, act, clock }] = bundle as [Waiting<Outgoing>]
  try {
    if (photo) await postPhoto(subject, photo)
    else if (act) await postAct(subject, act, movedSince(clock))
    else
      await postEntries(
        subject,
        bundle.flatMap((w) => w.entries.map((e) => ({ ...e, moved: movedSince(w.clock) }))),
      )
  } catch (error) {
    if (!isRefusal(error)) throw error
    // A bundle that is refused goes out one by one: each for its own fault only.
    if (bundle.length > 1) {
      for (const w of bundle) await deliver([w])
      return
    }
    const [{ place }] = bundle as [Waiting<Outgoing>]
    const waiter = waiters.get(place)
    // Whoever still looks at it hears of it and has what was typed; else it is kept with the refusal.
    if (waiter) await removeWaiting(place)
    else await refuseWaiting(place, { code: error.code, message: error.message })
    waiter?.failed(error)
    waiters.delete(place)
    return
  }
  for (const { place } of bundle) {
    await removeWaiting(place)
    waiters.get(place)?.done('sent')
    waiters.delete(place)
  }
}

/** What has waited so long was recorded without a signal: the server's time is heard before it goes out. */
const WAITED = 30_000

async function run(): Promise<void> {
  for (let first = true; ; first = false) {
    const list = (await waitingList<Outgoing>()).filter((w) => !w.refused)
    if (list.length === 0) break
    if (first && deviceNow() - list[0]!.at > WAITED) await api(`${projectOf(list[0]!.subject)}/device`)
    await deliver(bundleOf(list))
    told(null)
  }
}

/** Sends what waits, in order; again later, with longer and longer pauses, where it does not get through. */
export function drain(): Promise<void> {
  if (running) {
    again = true
    return running
  }
  if (timer) clearTimeout(timer)
  timer = null
  let why: unknown = null
  running = run()
    .then(() => void (pause = FIRST_PAUSE))
    .catch((error: unknown) => {
      why = error
      for (const w of waiters.values()) w.done('waits')
      waiters.clear()
      timer = setTimeout(() => void drain(), pause)
      pause = Math.min(LONGEST_PAUSE, pause * 2)
    })
    .then(async () => {
      running = null
      told(why)
      if (again) {
        again = false
        if (!timer) await drain()
      }
    })
  return running
}

/**
 * Keeps entries on the device, then sends them.
 *
 * @returns whether they have arrived, or wait here for a signal
 * @throws the server's refusal
 */
export async function keepAndSend(subject: string, at: number, entries: Outgoing[]): Promise<Outcome> {
  const place = await addWaiting(subject, at, { entries })
  told(null)
  return new Promise((done, failed) => {
    waiters.set(place, { done, failed })
    void drain()
  })
}

/** Keeps what was done on the device; it goes out in its turn. */
export async function keepAct(subject: string, at: number, act: WaitingAct): Promise<void> {
  await addWaiting(subject, at, { act })
  told(null)
  void drain()
}

async function lettersOf(blob: Blob): Promise<string> {
  const bytes = new Uint8Array(await blob.arrayBuffer())
  let text = ''
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000))
  return btoa(text)
}

/**
 * Keeps a photo on the device, or sends it where the device keeps nothing. It goes out before the entry
 * that names it.
 *
 * @param base address of the project
 * @returns its id
 */
export async function sendPhoto(base: string, picture: Blob, at: number): Promise<string> {
  if (!canWait()) return (await api<{ id: string }>(`${base}/files`, { body: picture })).id
  const id = uuidv7()
  await addWaiting(base, at, { photo: { id, mime: picture.type, data: await lettersOf(picture) } })
  told(null)
  void drain()
  return id
}
