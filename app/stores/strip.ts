import { defineStore } from 'pinia'
import { stateAt } from '#core/judgement/ahead'
import { unpackStrip, type StripJoint } from '#core/line/strip-rows'
import type { strip, stripChanges } from '../../server/services/strip'
import type { FeedRow } from '~/composables/useFeed'
import { useSession } from './session'

type Whole = Awaited<ReturnType<typeof strip>>
type Changes = Awaited<ReturnType<typeof stripChanges>>
export type { StripJoint }
export interface Strip {
  /** in the direction of the line; never changed in place, so that a list that is the same is unchanged */
  joints: StripJoint[]
  packs: Whole['packs']
  reaches: Whole['reaches']
}

/** Changes of so many joints are read by themselves; of more, the whole line is read again. */
const FEW = 60
/** What concerns every joint at once. */
const WHOLE = new Set(['project', 'instrument', 'lot', 'procedure'])

const A_DAY = 86_400_000
let changing: ReturnType<typeof setTimeout> | undefined

/** What a joint shows at a moment: what is stored, and what time alone made of it since. */
const shownAt = (joint: StripJoint, now: number): StripJoint => {
  const state = stateAt(joint, now)
  return state === joint.state ? joint : { ...joint, state }
}

/** The line as the strip draws it, shared by the top strip and the Line view. */
export const useStrip = defineStore('strip', {
  state: () => ({
    lineId: '',
    /** raw: twenty thousand joints are looked at in every frame */
    strip: null as Strip | null,
    problem: null as ApiProblem | null,
    station: null as number | null,
  }),
  actions: {
    /** Shows joints as they stand now, and again when time alone changes one of them. */
    show(joints: readonly StripJoint[], { packs, reaches }: Pick<Strip, 'packs' | 'reaches'>) {
      const now = Date.now()
      this.strip = markRaw({ joints: joints.map((j) => shownAt(j, now)), packs, reaches })
      clearTimeout(changing)
      const next = Math.min(...joints.flatMap((j) => j.changes.map((c) => c.at).filter((at) => at > now)))
      if (next - now < A_DAY)
        changing = setTimeout(() => this.strip && this.show(this.strip.joints, this.strip), next - now)
    },
    async load() {
      const session = useSession()
      const line = session.line
      // Whoever only administers has no strip to look at.
      if (!line || !session.can('see-site')) return
      try {
        const fresh = await api<Whole>(`${session.base}/lines/${line.id}/strip`)
        if (session.line?.id !== line.id) return
        this.show(unpackStrip(fresh.joints), fresh)
        this.lineId = line.id
        this.problem = null
      } catch (error) {
        if (error instanceof ApiProblem) this.problem = error
        else throw error
      }
    },
    /** Reads again what new entries touch, and no more. */
    async follow(rows: readonly FeedRow[]) {
      const { strip: before, lineId } = this
      const known = new Set(before?.joints.map((j) => j.id))
      const touched = [...new Set(rows.filter((r) => known.has(r.subject)).map((r) => r.subject))]
      const spans = rows.some((r) => r.subjectType === 'reach' || r.subjectType === 'pack')
      if (!before || touched.length > FEW || rows.some((r) => WHOLE.has(r.subjectType))) return this.load()
      if (touched.length === 0 && !spans) return
      try {
        const query = { joints: touched.join(','), spans: String(spans) }
        const fresh = await api<Changes>(`${useSession().base}/lines/${lineId}/changes`, { query })
        if (this.lineId !== lineId || !this.strip) return
        const changed = new Map(unpackStrip(fresh.joints).map((j) => [j.id, j]))
        this.show(
          this.strip.joints.map((j) => changed.get(j.id) ?? j),
          fresh.spans ?? this.strip,
        )
      } catch (error) {
        if (!(error instanceof ApiProblem)) throw error
        await this.load()
      }
    },
  },
})
