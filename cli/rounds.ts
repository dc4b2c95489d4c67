import { planRound, readRound } from '../core/round/plan'
import { answerRequests } from './requests'

/** The `round` command: in which order to go to those who wait. */
export const round = (args: string[]): Promise<number> =>
  answerRequests(args, (raw) => planRound(readRound(raw)))
