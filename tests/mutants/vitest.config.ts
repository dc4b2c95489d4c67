import { statSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'
import { BaseSequencer, type TestSpecification } from 'vitest/node'

/** The tests of a folder know its faults best, the small ones soonest: they run first, and the first that fails ends it. */
const asked = (process.env.MUTANTS_OF ?? '').split(',').filter((folder) => folder !== '')
class NearestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]) {
    const near = ({ moduleId }: TestSpecification) => asked.some((f) => moduleId.includes(`/core/${f}/`))
    return [...(await super.sort(files))].sort(
      (a, b) => Number(near(b)) - Number(near(a)) || statSync(a.moduleId).size - statSync(b.moduleId).size,
    )
  }
}

/** The tests of the core alone: a fault in it is theirs to notice. */
const path = (folder: string) => fileURLToPath(new URL(`../../${folder}`, import.meta.url))
export default defineConfig({
  resolve: { alias: { '#core': path('core'), '~': path('app') } },
  test: {
    root: path(''),
    include: ['tests/{core,app}/**/*.test.ts'],
    // What takes half a minute would take it again for every fault that it reaches.
    exclude: ['tests/core/procedure/broken-files.test.ts'],
    environment: 'node',
    isolate: false,
    sequence: { sequencer: NearestFirst },
    testTimeout: 120_000,
  },
})
