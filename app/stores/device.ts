import { defineStore } from 'pinia'
import type { SlicePage } from '../../server/services/slice'
import { forgetKept, keepOnly, keepPage, keptSize, saveSlicePlace, slicePlace } from '~/device/kept'
import { indexPage } from '~/device/find'
import { drain, onQueue, type Outgoing } from '~/device/sender'
import { signal } from '~/device/signal'
import { askForSignal } from '~/device/worker'
import {
  hasVault,
  makeVault,
  openByPin,
  openByShare,
  shutVault,
  vaultOwner,
  type Opening,
} from '~/device/vault'
import { removeWaiting, tryAgain, waitingList } from '~/device/waiting'
import type { Overview } from '~/stores/session'

/** What is refused, to be read by whoever recorded it. */
export interface Refused {
  place: number
  subject: string
  at: number
  message: string
}

/** Views follow this slowly: worksheets follow at once. */
const VIEWS_EVERY = 60_000
const SWEEP_EVERY = 10 * 60_000
function passForbidden(error: unknown) {
  if (!(error instanceof ApiProblem) || error.status === 0) throw error
}

/** This device as a person sees it: what it has along, what waits to be sent, and whether it is open. */
export const useDevice = defineStore('device', {
  state: () => ({
    open: false,
    /** somebody has a store here */
    has: false,
    /** entries that wait, and since when */
    waiting: 0,
    photos: 0,
    since: null as number | null,
    refused: [] as Refused[],
    /** what waits needs a person to sign in: the session has ended meanwhile */
    signedOut: false,
    /** everything went out while this was open */
    sent: 0,
    slice: null as { at: number; bytes: number } | null,
    taking: null as { done: number; total: number } | null,
    /** when what has left the slice was last let go */
    swept: 0,
    /** when the views were last read for keeping */
    viewed: 0,
    /** of which project the slice is */
    base: '',
    /** an administrator has ended this device: it keeps no work until it takes it along anew */
    ended: false,
    /** how much waited when the server last heard of it */
    told: null as number | null,
  }),
  actions: {
    async look() {
      this.has = await hasVault()
    },
    async count() {
      const list = await waitingList<Outgoing>()
      const waits = list.filter((w) => !w.refused)
      const before = this.waiting
      this.waiting = waits.reduce((n, w) => n + w.entries.length + (w.act ? 1 : 0), 0)
      this.photos = waits.filter((w) => w.photo).length
      this.since = waits[0]?.at ?? null
      if (this.waiting < before) this.sent += before - this.waiting
      this.refused = list.flatMap(({ place, subject, at, refused }) =>
        refused ? [{ place, subject, at, message: refused.message }] : [],
      )
    },
    /** After the store is open, however that came about. */
    async opened(base: string) {
      ;[this.open, this.has, this.base] = [true, true, base]
      keepDeviceOf(vaultOwner())
      onQueue((error) => {
        this.signedOut = error instanceof ApiProblem && error.status === 401
        if (!signal.value) void askForSignal()
        void this.count().then(() => {
          if (error === null && signal.value && this.waiting !== this.told) void this.tell()
        })
      })
      this.signedOut = false
      await this.count()
      const place = await slicePlace(base)
      this.slice = place ? { at: place.at, bytes: await keptSize() } : null
      void drain()
    },
    /** Opens the store of whoever is signed in, if this device has one. */
    async openFor(person: string, share: string, base: string) {
      await this.look()
      if (this.open && vaultOwner() === person && this.base === base) return
      if (await openByShare(person, share)) {
        await this.opened(base)
        void this.follow()
      } else this.shut()
    },
    /** Takes the day's work along: from now on it is here without a signal. */
    async take(base: string, pin: string, person: string) {
      const { share } = await api<{ share: string }>(`${base}/device`, { body: { secret: pin } })
      await makeVault(person, pin, share)
      // Asked once: a browser that is short of room then leaves this alone.
      await navigator.storage?.persist?.().catch(() => false)
      await this.opened(base)
      await this.follow()
    },
    /** Tells the server how much waits here, so that a device that is lost is known by it. */
    async tell() {
      const body = {
        waiting: this.waiting,
        since: this.since === null ? null : new Date(this.since).toISOString(),
      }
      this.told = this.waiting
      const heard = await api<{ ended: boolean }>(`${this.base}/device/heard`, { body }).catch(() => null)
      if (!heard) this.told = null
      else if (heard.ended) {
        await forgetKept()
        ;[this.slice, this.ended] = [null, true]
      }
    },
    /** An ended device takes the work along again; what waits on it was never let go. */
    async takeAgain(pin: string) {
      await api(`${this.base}/device`, { body: { secret: pin } })
      this.ended = false
      await this.follow()
    },
    async unlock(pin: string): Promise<Opening> {
      return openByPin(pin)
    },
    /** What has changed since the device last heard; all of it the first time. */
    async follow() {
      if (!this.open || this.taking) return
      await this.tell()
      if (this.ended) return
      const { base } = this
      this.taking = { done: 0, total: 0 }
      try {
        const after = (await slicePlace(base))?.sequence ?? 0
        const whole = after === 0 || Date.now() - this.swept > SWEEP_EVERY
        if (whole) this.swept = Date.now()
        let from: number | null = 0
        let sequence = after
        while (from !== null) {
          const page: SlicePage = await api(`${base}/slice?after=${after}&from=${from}&addresses=${whole}`)
          await keepPage(base, page)
          await indexPage(base, page)
          if (page.addresses) await keepOnly(base, page.addresses)
          // What changes while pages come is asked for the next time.
          if (from === 0) sequence = page.sequence
          from = page.next
          this.taking = { done: from ?? page.total, total: page.total }
        }
        await this.views(after === 0)
        const at = Date.now()
        await saveSlicePlace(base, { sequence, at })
        this.slice = { at, bytes: await keptSize() }
      } catch (error) {
        if (!(error instanceof ApiProblem)) throw error
        // A role that has ended takes its data with it; ahead of the record means another record.
        if (error.status === 403 || error.status === 404 || error.code === 'changed') {
          await forgetKept()
          this.slice = null
        }
      } finally {
        this.taking = null
      }
    },
    /** What the views of the field show, as they stand; strips of lines the first time. */
    async views(first: boolean) {
      const { base } = this
      if (!first && Date.now() - this.viewed < VIEWS_EVERY) return
      this.viewed = Date.now()
      const plain = [
        'overview',
        'today',
        'left-open',
        'clocks',
        'shift',
        'reaches',
        'procedures',
        'ncrs',
        'openings',
        'releasers',
      ]
      const overview = await api<Overview>(`${base}/overview`)
      const strips = first ? overview.lines.map((l) => `lines/${l.id}/strip`) : []
      // A reply is kept as it is read; one that this person may not have is passed over.
      for (const view of [...plain.slice(1), ...strips]) await api(`${base}/${view}`).catch(passForbidden)
    },
    async sendAgain(place: number) {
      await tryAgain(place)
      await this.count()
      await drain()
    },
    async letGo(place: number) {
      await removeWaiting(place)
      await this.count()
    },
    shut() {
      shutVault()
      keepDeviceOf(null)
      const { has } = this
      this.$reset()
      this.has = has
    },
  },
})
