import { evaluateTest, readRequest } from '../core/pressure/evaluate'
import { answerRequests } from './requests'

/** The `evaluate` command: judges pressure logs. */
export const evaluate = (args: string[]): Promise<number> =>
  answerRequests(args, (raw) => evaluateTest(readRequest(raw)))
