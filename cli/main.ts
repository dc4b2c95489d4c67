import { ValidationError } from 'yup'
import { Problem } from '../core/problem'
import { CommandFailure, note, print } from './say'

const usage = `Vet Line

  ./vet-line demo                 install, build, start with the demo project
  ./vet-line start | stop         start or stop without touching data
  ./vet-line person reset NAME    a link for somebody who is locked out
  ./vet-line test                 lint, layers, types, unit, server and browser tests
  ./vet-line calc [KEY a=… b=…]   one calculation; without a key, the list
  ./vet-line calc --json KEY      inputs as JSON on standard input
  ./vet-line calc --batch         one {"key","inputs"} a line in, one answer a line out
  ./vet-line judge record.json    judge a record file, of a joint or a reach
  ./vet-line judge --batch        one record a line in, one judgement a line out
  ./vet-line evaluate             judge the pressure log of a test, as JSON on standard input
  ./vet-line evaluate --batch     one test a line in, one verdict a line out
  ./vet-line round                in which order to go to those who wait, as JSON on standard input
  ./vet-line round --batch        one round a line in, one order a line out
  ./vet-line procedure check F    read and check a procedure document
  ./vet-line procedure schema     the JSON Schema of procedure documents
  ./vet-line logger PACK          a made-up pipe feeds a running test of the demo
  ./vet-line pump REACH           a made-up grout pump feeds the log of a casing of the demo
  ./vet-line receiver --secret S  a stand-in for a program that is told what happens
  ./vet-line digest RECORD [LOG]  check a record file, and the log of its test, without a database
  ./vet-line verify               check every chain and projection of the database
  ./vet-line backup FILE          write the database to a file
  ./vet-line restore FILE         put a backup into an empty data folder
`

const portOf = (args: string[]) => {
  const at = args.indexOf('--port')
  if (at < 0) return undefined
  const port = Number(args[at + 1])
  if (!Number.isInteger(port) || port < 1 || port > 65_535)
    throw new CommandFailure(`"${args[at + 1] ?? ''}" is not a port: give a number from 1 to 65535.`)
  return port
}

/** Feeds a running test of the demo as a logger would. */
async function feedTest(args: string[]): Promise<void> {
  const { demoPassword } = await import('../demo/people')
  const { scheme } = await import('../demo/scheme')
  const { runLogger } = await import('../devices/logger')
  try {
    await runLogger(args, { project: scheme.key, name: 'ines', password: demoPassword })
  } catch (error) {
    throw new CommandFailure((error as Error).message)
  }
}

/** Feeds the log of a casing of the demo as a grout pump would. */
async function feedGrout(args: string[]): Promise<void> {
  const { demoPassword } = await import('../demo/people')
  const { scheme } = await import('../demo/scheme')
  const { runPump } = await import('../devices/pump')
  try {
    await runPump(args, { project: scheme.key, name: 'milo', password: demoPassword })
  } catch (error) {
    throw new CommandFailure((error as Error).message)
  }
}

/** Is told what happens, as another program would be. */
async function receive(args: string[]): Promise<void> {
  const { runReceiver } = await import('../devices/receiver')
  try {
    await runReceiver(args, print)
  } catch (error) {
    throw new CommandFailure((error as Error).message)
  }
}

async function run([command, ...args]: string[]): Promise<number> {
  switch (command) {
    case 'calc':
      return (await import('./calculate')).calculate(args)
    case 'judge':
      return (await import('./judging')).judgeRecord(args[0])
    case 'evaluate':
      return (await import('./evaluating')).evaluate(args)
    case 'round':
      return (await import('./rounds')).round(args)
    case 'procedure':
      return (await import('./judging')).checkProcedure(args)
    case 'digest':
      return (await import('./digesting')).checkDigest(args)
    case 'verify':
      return (await import('./verifying')).verifyDatabase()
    case 'demo':
      await (await import('./lifecycle')).demo(portOf(args))
      return 0
    case 'start':
      await (await import('./lifecycle')).startForPeople(portOf(args))
      return 0
    case 'person':
      if (args[0] !== 'reset') throw new CommandFailure('./vet-line person reset SIGN-IN')
      await (await import('./lifecycle')).resetPerson(args[1])
      return 0
    case 'stop':
      await (await import('./lifecycle')).stop()
      return 0
    case 'logger':
      await feedTest(args)
      return 0
    case 'pump':
      await feedGrout(args)
      return 0
    case 'receiver':
      await receive(args)
      return 0
    case 'test':
      return (await import('./testing')).runTests()
    case 'backup':
      return (await import('./backup')).backup(args[0])
    case 'restore':
      return (await import('./backup')).restore(args[0])
    case undefined:
    case 'help':
    case '--help':
      print(usage)
      return 0
    default:
      throw new CommandFailure(`There is no command "${command}". ./vet-line help lists them.`)
  }
}

try {
  process.exitCode = await run(process.argv.slice(2))
} catch (error) {
  if (error instanceof CommandFailure || error instanceof Problem || error instanceof ValidationError) {
    note(`vet-line: ${error.message}`)
    process.exitCode = error instanceof CommandFailure ? error.exitCode : 2
  } else throw error
}
