/** The folders asked for, and whether their own tests are meant (they know the faults best) or all others. */
export const folders = (process.env.MUTANTS_OF ?? '').split(',')
export const far = process.env.MUTANTS_PASS === 'far'
