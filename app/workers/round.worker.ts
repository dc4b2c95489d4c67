import { planRound, type Round } from '#core/round/plan'
import type { RoundRequest } from '#core/round/timing'

/** Orders a round off the interface's thread; each question is answered with its number. */
self.onmessage = ({ data }: MessageEvent<{ asked: number; request: RoundRequest }>) => {
  const round: Round = planRound(data.request)
  self.postMessage({ asked: data.asked, round })
}
