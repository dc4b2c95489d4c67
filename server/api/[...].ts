import { defineEventHandler } from 'h3'
import { Problem } from '#core/problem'
import { refusal } from '../http/refuse'

/** Whatever no route answers: a page would be the wrong answer. */
export default defineEventHandler(() => {
  throw refusal(new Problem('not-found', 'There is no such place.'))
})
