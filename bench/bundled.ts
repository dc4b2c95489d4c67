import { build } from 'esbuild'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath, pathToFileURL } from 'node:url'

/**
 * Runs a bench as the built application runs: bundled, without the loader's additions.
 * `node --import tsx bench/bundled.ts bench/judge.ts`
 */
const root = fileURLToPath(new URL('..', import.meta.url))
const outfile = join(root, 'node_modules/.cache/vet-line-bench.mjs')
await build({
  entryPoints: [join(root, process.argv[2]!)],
  outfile,
  bundle: true,
  format: 'esm',
  platform: 'node',
  packages: 'external',
  logLevel: 'error',
  alias: { '#core': join(root, 'core') },
  // Each file keeps its own place, so that it finds what it reads.
  plugins: [
    {
      name: 'own-place',
      setup: (b) =>
        void b.onLoad({ filter: /\.ts$/, namespace: 'file' }, ({ path }) => ({
          loader: 'ts',
          contents: readFileSync(path, 'utf8').replaceAll(
            'import.meta.url',
            JSON.stringify(pathToFileURL(path).href),
          ),
        })),
    },
  ],
})
await import(pathToFileURL(outfile).href)
