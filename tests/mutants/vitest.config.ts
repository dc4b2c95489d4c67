import { statSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'
import { BaseSequencer, type TestSpecification } from 'vitest/node'

/** The folders asked for, and whether their own tests are meant (they know the faults best) or all others. */
const asked = (process.env.MUTANTS_OF ?? '').split(',').filter((folder) => folder !== '')
const near = asked.map((folder) => `tests/core/${folder}/**/*.test.ts`)
const far = process.env.MUTANTS_PASS === 'far'

/** Small files first: the first test that fails ends it. */
class SmallestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]) {
    return [...(await super.sort(files))].sort(
      (a, b) => statSync(a.moduleId).size - statSync(b.moduleId).size,
    )
  }
}

/** The tests of the core alone: a fault in it is theirs to notice. */
const path = (folder: string) => fileURLToPath(new URL(`../../${folder}`, import.meta.url))
export default defineConfig({
  resolve: { alias: { '#core': path('core'), '~': path('app') } },
  test: {
    root: path(''),
    include: far ? ['tests/{core,app}/**/*.test.ts'] : near,
    // What takes half a minute would take it again for every fault that it reaches.
    exclude: ['tests/core/procedure/broken-files.test.ts', ...(far ? near : [])],
    environment: 'node',
    isolate: false,
    sequence: { sequencer: SmallestFirst },
    testTimeout: 120_000,
  },
})
