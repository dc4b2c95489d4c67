import { posix } from 'node:path'
import { fileURLToPath } from 'node:url'
import type { Plugin } from 'rollup'

const SOURCE = /new URL\(\s*(['"])(\.{1,2}\/[^'"]+\.worker\.ts)\1\s*,\s*import\.meta\.url\s*\)/g

/**
 * Bundles `new URL('./x.worker.ts', import.meta.url)` of the server as files of their own beside
 * its chunks, and writes their place into the code: the server's bundler leaves such files out.
 */
export const workerFiles = (): Plugin => ({
  name: 'worker-files',
  transform: {
    order: 'pre',
    handler(code, id) {
      if (!code.includes('.worker.ts')) return null
      const replaced = code.replace(SOURCE, (_all, _quote, path: string) => {
        const file = fileURLToPath(new URL(path, `file://${id}`))
        const ref = this.emitFile({
          type: 'chunk',
          id: file,
          fileName: `chunks/workers/${posix.basename(file, '.ts')}.mjs`,
        })
        return `new URL('__worker_file_${ref}__')`
      })
      return { map: null, code: replaced }
    },
  },
  renderChunk: {
    order: 'post',
    handler(code, chunk) {
      if (!code.includes('__worker_file_')) return null
      const placed = code.replace(/['"]__worker_file_([\w$]+)__['"]/g, (_all, ref: string) => {
        const place = posix.relative(posix.dirname(chunk.fileName), this.getFileName(ref))
        return `${JSON.stringify(place.startsWith('.') ? place : `./${place}`)}, import.meta.url`
      })
      // The names that the bundler gives depend on where the project lies: one that is not known here would
      // only be found out when a file is read.
      if (placed.includes('__worker_file_')) this.error('A worker of the server was not placed.')
      return { map: null, code: placed }
    },
  },
})
