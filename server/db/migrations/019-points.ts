/** What is stored of a judgement tells queries, review points and surveillance too: it is made anew. */
export { up } from './012-summaries'
