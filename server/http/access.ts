import type { Role } from '#core/record/entry'

/** Who may use a route: anyone, anybody signed in, or members of the project in one of these roles. */
export type Who = 'anyone' | 'signed-in' | readonly Role[]

const all: readonly Role[] = ['inspector', 'crew-lead', 'engineer', 'witness', 'administrator']
const site: readonly Role[] = ['inspector', 'crew-lead', 'engineer', 'witness']
const checkers: readonly Role[] = ['inspector', 'crew-lead']
const inspector: readonly Role[] = ['inspector']
const office: readonly Role[] = ['inspector', 'engineer', 'witness']
const testers: readonly Role[] = ['inspector', 'engineer']

/** The one place that says who may do what; a test walks every route against it. */
export const access = {
  'GET /api/health': 'anyone',
  'GET /api/session': 'anyone',
  'POST /api/session': 'anyone',
  'DELETE /api/session': 'signed-in',
  'GET /api/calculators': 'signed-in',
  'POST /api/calculators/:key': 'signed-in',
  'GET /api/projects/:project/overview': all,
  'GET /api/projects/:project/today': site,
  'GET /api/projects/:project/clocks': site,
  'GET /api/projects/:project/feed': site,
  'GET /api/projects/:project/find': site,
  'GET /api/projects/:project/lines/:line/strip': site,
  'GET /api/projects/:project/joints/:joint': site,
  'POST /api/projects/:project/joints/:joint/open': checkers,
  'POST /api/projects/:project/joints/:joint/entries': ['inspector', 'crew-lead', 'engineer'],
  'POST /api/projects/:project/joints/:joint/release': ['inspector', 'engineer'],
  'GET /api/projects/:project/joints/:joint/items': checkers,
  'POST /api/projects/:project/files': ['inspector', 'crew-lead', 'engineer'],
  'GET /api/projects/:project/files/:file': site,
  'GET /api/projects/:project/orders': office,
  'GET /api/projects/:project/deliveries': office,
  'POST /api/projects/:project/deliveries': inspector,
  'POST /api/projects/:project/deliveries/preview': inspector,
  'GET /api/projects/:project/deliveries/:delivery': office,
  'POST /api/projects/:project/deliveries/:delivery/items/:item': inspector,
  'POST /api/projects/:project/deliveries/:delivery/accept': inspector,
  'POST /api/projects/:project/deliveries/:delivery/sign': inspector,
  'GET /api/projects/:project/ncrs': site,
  'POST /api/projects/:project/ncrs': ['inspector', 'crew-lead', 'engineer'],
  'GET /api/projects/:project/ncrs/:ncr': site,
  'POST /api/projects/:project/ncrs/:ncr/disposition': ['engineer'],
  'POST /api/projects/:project/ncrs/:ncr/rework': checkers,
  'POST /api/projects/:project/ncrs/:ncr/verification': inspector,
  'GET /api/projects/:project/reaches': site,
  'GET /api/projects/:project/reaches/:reach': site,
  'POST /api/projects/:project/reaches/:reach/entries': checkers,
  'GET /api/projects/:project/packs': office,
  'GET /api/projects/:project/packs/:pack': office,
  'POST /api/projects/:project/packs/:pack/confirm': testers,
  'POST /api/projects/:project/packs/:pack/start': testers,
  'POST /api/projects/:project/packs/:pack/log': testers,
  'POST /api/projects/:project/packs/:pack/samples': testers,
  'POST /api/projects/:project/packs/:pack/finish': testers,
  'POST /api/projects/:project/packs/:pack/sign': ['witness', 'inspector'],
  'GET /api/projects/:project/packs/:pack/certificate': office,
  'GET /api/projects/:project/packs/:pack/log': office,
  'GET /api/projects/:project/procedures': site,
  'POST /api/projects/:project/procedures': ['engineer'],
  'GET /api/projects/:project/procedures/:procedure': site,
  'GET /api/projects/:project/procedures/:procedure/joints': ['inspector', 'engineer'],
  'POST /api/projects/:project/procedures/:procedure/source': ['engineer'],
  'POST /api/projects/:project/procedures/:procedure/submit': ['engineer'],
  'POST /api/projects/:project/procedures/:procedure/review': ['engineer'],
  'POST /api/projects/:project/procedures/:procedure/issue': ['engineer'],
  'GET /api/projects/:project/settings': all,
  'POST /api/projects/:project/settings/rule': ['engineer'],
  'POST /api/projects/:project/instruments': ['administrator'],
  'POST /api/projects/:project/instruments/:instrument/calibrations': ['administrator'],
  'GET /api/projects/:project/verify': ['inspector', 'engineer', 'administrator'],
} as const satisfies Record<string, Who>

export type RouteKey = keyof typeof access
