import { Problem } from '../../problem'
import type { PlanList } from './define'
import { articleList, instrumentList } from './goods'
import { lineList, profileList, structureList } from './lines'
import { packList } from './packs'
import { plantList } from './plants'
import { compactionCurveList } from './soil'
import { crewList, peopleList } from './people'
import { qualificationList } from './qualifications'
import { jointList, reachList } from './work'

/** Every list that a project is set up with, in the order in which they stand on each other. */
export const planLists = [
  crewList,
  peopleList,
  instrumentList,
  lineList,
  profileList,
  structureList,
  articleList,
  compactionCurveList,
  plantList,
  qualificationList,
  jointList,
  reachList,
  packList,
] as unknown as readonly PlanList<never>[]

export type ListKey =
  | 'crews'
  | 'people'
  | 'instruments'
  | 'lines'
  | 'profiles'
  | 'structures'
  | 'articles'
  | 'curves'
  | 'plants'
  | 'qualifications'
  | 'joints'
  | 'reaches'
  | 'packs'

/** @throws Problem `not-found` naming `list` */
export function findList(key: string): PlanList<never> {
  const found = planLists.find((l) => l.key === key)
  if (!found) throw new Problem('not-found', `There is no list "${key.slice(0, 40)}".`, 'list')
  return found
}
