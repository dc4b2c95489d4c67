/** A release given on a device that is not the releaser's own, where there is no signal. */
export interface ReleaseHere {
  /** of the entry */
  id: string
  subject: string
  step: string
  /** who releases */
  by: string
}

/** What the PIN of such a release is bound to: it opens for nothing else. */
export const boundTo = ({ id, subject, step, by }: ReleaseHere): string => [id, subject, step, by].join('\n')
