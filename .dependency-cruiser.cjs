/** Layers: core ← server/db ← server/services ← server/http, server/api; core ← app. Nothing reaches up. */
const only = (name, from, forbidden, comment) => ({
  name,
  severity: 'error',
  comment,
  from: { path: from },
  to: { path: forbidden },
})

module.exports = {
  forbidden: [
    only('core-is-pure', '^core/', '^(server|app|cli|demo|devices)/', 'The core knows nothing above it.'),
    only(
      'core-packages',
      '^core/',
      'node_modules/(vue|nuxt|nitropack|h3|knex|mysql2|pinia|element-plus|echarts)/',
      'The core runs anywhere.',
    ),
    { name: 'core-no-node', severity: 'error', from: { path: '^core/' }, to: { dependencyTypes: ['core'] } },
    only(
      'db-is-low',
      '^server/db/',
      '^(server/(services|http|api|middleware|plugins)|app|cli|demo)/',
      'Repositories know the core and the driver.',
    ),
    only(
      'services-below-http',
      '^server/services/',
      '^(server/(http|api|middleware|plugins)|app|cli|demo)/',
      'Use cases know nothing of HTTP.',
    ),
    only(
      'http-below-api',
      '^server/http/',
      '^(server/api|app|cli|demo)/',
      'Routes use the HTTP layer, not the other way.',
    ),
    only(
      'app-uses-core-only',
      '^app/',
      '^(server/(http|api)|cli|demo)/',
      'The interface talks to the server over HTTP.',
    ),
    {
      name: 'app-types-of-services',
      severity: 'error',
      comment: 'The interface may know the types of replies, never run them.',
      from: { path: '^app/' },
      to: { path: '^server/(services|db)/', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'no-circles',
      severity: 'error',
      from: { path: '^(core|server|app|cli|demo)/' },
      to: { circular: true },
    },
    {
      name: 'no-circles-of-folders',
      severity: 'error',
      comment: 'A folder of the core is understood by itself and by what lies below it.',
      scope: 'folder',
      from: { path: '^core/' },
      to: { circular: true },
    },
    {
      name: 'resolved',
      severity: 'error',
      comment: 'An import that does not resolve would slip past every rule.',
      from: { path: '^(core|server|cli|demo|devices)/' },
      to: { couldNotResolve: true, pathNot: '^(#imports|~icons/)' },
    },
  ],
  options: {
    tsConfig: { fileName: 'tsconfig.tools.json' },
    tsPreCompilationDeps: true,
    doNotFollow: { path: 'node_modules' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
    },
  },
}
