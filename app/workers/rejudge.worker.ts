import { judge } from '#core/judgement/judge'
import type { SubjectState, JudgeOptions } from '#core/judgement/types'
import { loadProcedure } from '#core/procedure/load'
import type { CompiledProcedure } from '#core/procedure/compile'
import type { JointToRejudge } from '../../server/services/procedures'

/**
 * What a revision would make of joints already made: they are judged anew here, off the interface's
 * thread.
 */
export type RejudgeRequest =
  | { kind: 'begin'; source: string }
  | { kind: 'joints'; options: JudgeOptions; joints: JointToRejudge[]; now: number }
export interface Rejudged {
  id: string
  number: string
  station: number
  revision: string
  before: SubjectState
  after: SubjectState
  /** the steps that make the difference */
  steps: { title: string; sentence: string }[]
}
export interface RejudgeReply {
  judged: number
  changed: Rejudged[]
}

let compiled: CompiledProcedure | null = null

self.onmessage = ({ data }: MessageEvent<RejudgeRequest>) => {
  if (data.kind === 'begin') {
    compiled = loadProcedure(data.source)
    return
  }
  const changed: Rejudged[] = []
  for (const joint of data.joints) {
    const brief = judge(compiled!, joint.facts, joint.entries, data.now, { ...data.options, brief: true })
    if (brief.state === joint.state || joint.state !== 'accepted') continue
    const whole = judge(compiled!, joint.facts, joint.entries, data.now, data.options)
    const steps = whole.steps
      .filter((s) => !['accepted', 'not-applicable', 'waiting'].includes(s.state))
      .map((s) => ({
        title: compiled!.steps[compiled!.stepIndex.get(s.key)!]!.step.title,
        sentence: s.sentence || 'Nothing is recorded for it.',
      }))
    changed.push({
      id: joint.id,
      number: joint.number,
      station: joint.station,
      revision: joint.revision,
      before: joint.state,
      after: whole.state,
      steps,
    })
  }
  self.postMessage({ judged: data.joints.length, changed } satisfies RejudgeReply)
}
