import { defineStore } from 'pinia'
import type { strip } from '../../server/services/overview'
import { useSession } from './session'

export type Strip = Awaited<ReturnType<typeof strip>>
export type StripJoint = Strip['joints'][number]

/** The line as the strip draws it, shared by the top strip and the Line view. */
export const useStrip = defineStore('strip', {
  state: () => ({
    lineId: '',
    strip: null as Strip | null,
    problem: null as ApiProblem | null,
    station: null as number | null,
  }),
  actions: {
    async load() {
      const session = useSession()
      const line = session.line
      // Whoever only administers has no strip to look at.
      if (!line || !session.can('see-site')) return
      try {
        const fresh = await api<Strip>(`${session.base}/lines/${line.id}/strip`)
        if (session.line?.id !== line.id) return
        this.strip = fresh
        this.lineId = line.id
        this.problem = null
      } catch (error) {
        if (error instanceof ApiProblem) this.problem = error
        else throw error
      }
    },
  },
})
