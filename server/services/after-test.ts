import type { Knex } from 'knex'
import { entriesOf } from '../db/entries'
import { jointsWhere } from '../db/joints'
import type { Project } from '../db/projects'
import type { Pack } from '../db/packs'
import { compiledProcedure } from './procedures'
import { refreshSubject } from './subjects'

/** Writes anew what stands of joints whose procedure waits for a test, when one over them was planned or judged. */
export async function refreshAfterTest(
  trx: Knex,
  project: Project,
  { alignment, from, to }: Pick<Pack, 'alignment' | 'from' | 'to'>,
): Promise<void> {
  const joints = await jointsWhere(trx, { project: project.id, alignment, from, to })
  for (const joint of joints) {
    if (!joint.procedure || joint.state === 'withdrawn') continue
    const { steps } = await compiledProcedure(trx, project.id, joint.procedure)
    if (!steps.some((s) => s.afterTest)) continue
    const subject = { type: 'joint' as const, title: `Joint ${joint.number}`, ...joint }
    await refreshSubject(trx, project, subject, await entriesOf(trx, joint.id))
  }
}
