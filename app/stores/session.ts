import { defineStore } from 'pinia'
import { may, type Action, type Role } from '#core/access'
import { useDevice } from '~/stores/device'
import type { overview } from '../../server/services/overview'

export type Overview = Awaited<ReturnType<typeof overview>>
interface SessionReply {
  /** the server's time; null in a reply that was kept */
  now: number | null
  person: { id: string; name: string } | null
  projects: { key: string; name: string; roles: Role[] }[]
  /** begins projects and lets people in */
  keeper: boolean
  /** half of what opens the device's store of this person */
  share: string | null
}

const REMEMBERED = 'vet-line-project'

/** Who is signed in, on which project, in which roles, and the names of things there. */
export const useSession = defineStore('session', {
  state: () => ({
    known: false,
    person: null as SessionReply['person'],
    projects: [] as SessionReply['projects'],
    keeper: false,
    projectKey: '',
    overview: null as Overview | null,
    lineId: '',
  }),
  getters: {
    roles: (s): Role[] => s.projects.find((p) => p.key === s.projectKey)?.roles ?? [],
    base: (s) => `projects/${s.projectKey}`,
    line: (s) => s.overview?.lines.find((l) => l.id === s.lineId) ?? s.overview?.lines[0] ?? null,
    zone: (s) => s.overview?.project.zone ?? 'UTC',
  },
  actions: {
    can(action: Action) {
      return may(this.roles, action)
    },
    crewName(id: string | null) {
      return this.overview?.crews.find((c) => c.id === id)?.name ?? ''
    },
    async load() {
      const reply = await api<SessionReply>('session')
      if (reply.now !== null) setServerTime(reply.now)
      this.person = reply.person
      this.projects = reply.projects
      this.keeper = reply.keeper
      const wanted = [this.projectKey, localStorage.getItem(REMEMBERED) ?? '']
      this.projectKey =
        wanted.find((key) => reply.projects.some((p) => p.key === key)) ?? reply.projects[0]?.key ?? ''
      this.known = true
      if (reply.person && reply.share) await useDevice().openFor(reply.person.id, reply.share, this.base)
      await this.loadProject()
    },
    /** What every view of the project needs to name things. */
    async loadProject() {
      if (!this.person || !this.projectKey) this.overview = null
      else {
        const overview = await api<Overview>(`${this.base}/overview`)
        useUnitsOf(overview.project.units)
        this.overview = overview
        const remembered = localStorage.getItem('vet-line-line')
        this.lineId =
          (
            this.overview.lines.find((l) => l.key === remembered) ??
            this.overview.lines.find(
              (l) => l.to - l.from === Math.max(...this.overview!.lines.map((x) => x.to - x.from)),
            )
          )?.id ?? ''
      }
    },
    /** Another project: nothing of the one before stays on the screen. */
    async chooseProject(key: string) {
      if (key !== this.projectKey) closeFeed()
      localStorage.setItem(REMEMBERED, key)
      this.projectKey = key
      this.lineId = ''
      await this.loadProject()
    },
    chooseLine(id: string) {
      this.lineId = id
      localStorage.setItem('vet-line-line', this.line?.key ?? '')
    },
    async signIn(name: string, password: string) {
      forgetDevice()
      await api('session', { method: 'POST', body: { signIn: name, password } })
      await this.load()
    },
    async signOut() {
      closeFeed()
      await api('session', { method: 'DELETE' })
      useDevice().shut()
      this.$reset()
      this.known = true
    },
  },
})
