import { computed, ref, shallowRef, type ComputedRef, type Ref } from 'vue'

export interface Paged<T> {
  /** as many places as there are items; empty where not loaded yet */
  rows: Ref<(T | undefined)[]>
  total: ComputedRef<number>
  problem: Ref<ApiProblem | null>
  /** loads the pages that hold these places, if they are not there */
  want: (from: number, to: number) => void
  /** begins anew, after a change of what is asked */
  restart: () => Promise<void>
}

const PAGE = 100

/** A long list that comes page by page as it is scrolled to. */
export function usePaged<T>(read: (from: number, count: number) => Promise<{ total: number; items: T[] }>): Paged<T> {
  const rows = shallowRef<(T | undefined)[]>([])
  const problem = ref<ApiProblem | null>(null)
  let asked = new Set<number>()
  let run = 0
  async function page(n: number, mine: number) {
    asked.add(n)
    try {
      const { total, items } = await read(n * PAGE, PAGE)
      if (mine !== run) return
      const next = n === 0 && rows.value.length !== total ? new Array<T | undefined>(total).fill(undefined) : [...rows.value]
      items.forEach((item, i) => (next[n * PAGE + i] = item))
      rows.value = next
      problem.value = null
    } catch (error) {
      if (mine !== run) return
      asked.delete(n)
      if (!(error instanceof ApiProblem)) throw error
      problem.value = error
    }
  }
  return {
    rows, problem, total: computed(() => rows.value.length),
    want(from, to) {
      for (let n = Math.floor(from / PAGE); n <= Math.floor(Math.max(from, to) / PAGE); n++) if (!asked.has(n) && n * PAGE < rows.value.length) void page(n, run)
    },
    async restart() {
      run++
      asked = new Set()
      await page(0, run)
    },
  }
}
