import { computed, ref, shallowRef, type ComputedRef, type Ref } from 'vue'
import { ApiProblem } from './useApi'

export interface Paged<T> {
  /** as many places as there are items; empty where not loaded yet */
  rows: Ref<(T | undefined)[]>
  total: ComputedRef<number>
  problem: Ref<ApiProblem | null>
  /** loads the pages that hold these places, if they are not there; places wanted before are forgotten */
  want: (from: number, to: number) => void
  /** begins anew, after a change of what is asked */
  restart: () => Promise<void>
}

const PAGE = 100
const AT_ONCE = 2

/**
 * A long list that comes page by page as it is scrolled to. Few pages are on their way at
 * once, and what was scrolled past is not asked for: the places shown now come first.
 */
export function usePaged<T>(
  read: (from: number, count: number) => Promise<{ total: number; items: T[] }>,
): Paged<T> {
  const rows = shallowRef<(T | undefined)[]>([])
  const problem = ref<ApiProblem | null>(null)
  let asked = new Set<number>()
  let wanted = { first: 0, last: 0 }
  let run = 0
  let busy = 0

  async function page(n: number, mine: number) {
    asked.add(n)
    busy++
    try {
      const { total, items } = await read(n * PAGE, PAGE)
      if (mine !== run) return
      const next =
        n === 0 && rows.value.length !== total
          ? new Array<T | undefined>(total).fill(undefined)
          : [...rows.value]
      items.forEach((item, i) => (next[n * PAGE + i] = item))
      rows.value = next
      problem.value = null
      busy--
      more()
    } catch (error) {
      if (mine !== run) return
      busy--
      // Asked again when it is scrolled to again, not by itself.
      asked.delete(n)
      if (!(error instanceof ApiProblem)) throw error
      problem.value = error
    }
  }
  function more() {
    for (let n = wanted.first; n <= wanted.last && busy < AT_ONCE; n++)
      if (!asked.has(n) && n * PAGE < rows.value.length) void page(n, run)
  }
  return {
    rows,
    problem,
    total: computed(() => rows.value.length),
    want(from, to) {
      wanted = { first: Math.floor(Math.max(0, from) / PAGE), last: Math.floor(Math.max(from, to, 0) / PAGE) }
      more()
    },
    async restart() {
      run++
      busy = 0
      asked = new Set()
      wanted = { first: 0, last: 0 }
      await page(0, run)
    },
  }
}
