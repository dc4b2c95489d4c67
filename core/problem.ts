/** A name in a sentence, such as `{diameter}`, by the key of the field that it stands for. */
const NAME = /\{([\w.@[\]-]+)\}/g

/**
 * A refusal that a person can act on: a stable code, a plain sentence, and the
 * field (input key, column, step) it is about. Thrown by the core and passed
 * through every layer unchanged.
 *
 * The sentence may name fields as `{key}`: `message` says them by their keys, and a form that calls them
 * otherwise has it said with its own words by `named`, without looking into the sentence.
 */
export class Problem extends Error {
  readonly code: string
  readonly field: string | null
  readonly details: Record<string, unknown> | undefined
  /** the sentence with its fields as `{key}` */
  readonly template: string

  constructor(
    code: string,
    template: string,
    field: string | null = null,
    details?: Record<string, unknown>,
  ) {
    super(template.replace(NAME, '$1'))
    this.name = 'Problem'
    this.code = code
    this.template = template
    this.field = field
    this.details = details
  }

  /** The sentence with every field called by the word that it has here. */
  named(word: (key: string) => string): string {
    return this.template.replace(NAME, (_, key: string) => word(key))
  }
}
