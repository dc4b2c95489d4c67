/** A failure that ends a command with one clear sentence. */
export class CommandFailure extends Error {
  constructor(
    message: string,
    readonly exitCode = 2,
  ) {
    super(message)
  }
}

// Whoever reads only the first lines of an answer closes the pipe: that is no fault.
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EPIPE') process.exit(0)
  throw error
})

export const print = (text: string) => process.stdout.write(`${text}\n`)
export const note = (text: string) => process.stderr.write(`${text}\n`)
export const json = (value: unknown) => print(JSON.stringify(value))
