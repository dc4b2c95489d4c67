import { onScopeDispose, ref } from 'vue'

export interface FeedRow {
  feed: number
  subjectType: string
  subject: string
  kind: string
  step: string | null
  crew: string | null
}

type Listener = (rows: FeedRow[]) => void

const listeners = new Set<Listener>()
/** Whether the server's stream is open: false means that what is shown may be old. */
export const feedOpen = ref(false)
let source: EventSource | null = null
let openFor = ''

function open(project: string) {
  // A stream that the server refused, as after the session ended, does not come back by itself.
  if (openFor === project && source && source.readyState !== EventSource.CLOSED) return
  source?.close()
  openFor = project
  source = new EventSource(`/api/projects/${project}/feed`)
  source.addEventListener('open', () => (feedOpen.value = true))
  source.onerror = () => (feedOpen.value = false)
  source.onmessage = (event: MessageEvent<string>) => {
    const rows = JSON.parse(event.data) as FeedRow[]
    for (const listener of listeners) listener(rows)
  }
}

export function closeFeed() {
  source?.close()
  source = null
  openFor = ''
  feedOpen.value = false
}

/** Hears of every new entry of the project while the calling component lives. */
export function useFeed(project: string, listener: Listener) {
  open(project)
  listeners.add(listener)
  onScopeDispose(() => listeners.delete(listener))
}
