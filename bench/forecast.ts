import { walkOf, forecast, type Walk } from '../core/crew/pace'
import { judge } from '../core/judgement/judge'
import { standing } from '../core/judgement/standing'
import { entriesOfMany, forCore } from '../server/db/entries'
import { jointsOpened } from '../server/db/joints'
import { findProject } from '../server/db/projects'
import { judgeOptions } from '../server/services/judging'
import { compiledProcedure } from '../server/services/procedures'
import { asOwner } from '../tests/server/connect'
import { startSite } from '../tests/site'

/**
 * The demo's four weeks once more: at every step before a hold point, when it was foreseen that the crew
 * would come there, by the joints it had made until then, against when it came. How far off, and how often
 * the span that holds four of five did.
 */
const site = startSite(4530)
const db = asOwner(site.data)
try {
  const project = (await findProject(db, 'skerry-head'))!
  const joints = (
    await jointsOpened(db, { project: project.id, since: new Date(Date.now() - 40 * 86_400_000) }, 2000)
  ).reverse()
  const records = await entriesOfMany(
    db,
    joints.map((j) => j.id),
  )
  const past = new Map<string, Walk[]>()
  const off: number[] = []
  let held = 0
  for (const joint of joints) {
    const compiled = await compiledProcedure(db, project.id, joint.procedure!)
    const entries = standing((records.get(joint.id) ?? []).map(forCore))
    const options = await judgeOptions(db, project, compiled.procedure.key)
    const judged = judge(compiled, joint.facts, entries, Date.now(), { ...options, brief: true })
    const walk = walkOf(entries)
    const key = `${joint.crew} ${compiled.procedure.key}`
    const before = past.get(key) ?? []
    const point = judged.steps.find((s) => s.point === 'H')
    const came = point && walk.get(point.key)
    if (came !== undefined)
      for (const [step, at] of walk) {
        if (at >= came) continue
        const found = forecast(before, { key: step, at }, point!.key, at)
        if (!found) continue
        off.push(Math.abs(found.at - came) / 60_000)
        if (came >= found.from - 1 && came <= found.to + 1) held++
      }
    past.set(key, [walk, ...before])
  }
  off.sort((a, b) => a - b)
  const at = (share: number) => off[Math.floor((off.length - 1) * share)]!.toFixed(1)
  console.log(
    `${off.length} forecasts over ${joints.length} joints: off by ${at(0.5)} min (median), ${at(0.9)} min at the ninth tenth; ` +
      `the span held ${((held / off.length) * 100).toFixed(0)} % (80 % asked)`,
  )
} finally {
  await db.destroy()
  await site.stop()
}
