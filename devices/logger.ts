import { setTimeout as sleep } from 'node:timers/promises'
import { parseArgs } from 'node:util'
import { Gateway } from './gateway'
import { PipeUnderTest, sound, stories } from './pipe'
import { Outbox, packByNumber, signIn } from './site'
import { startStandIns } from './stand-ins'

const usage = `./vet-line logger PACK-NUMBER  a made-up pipe with its instruments feeds a running test
  --over http|modbus      straight to the site, or over Modbus TCP through a gateway
  --story ${Object.keys(stories).join('|')}   how the pipe behaves, at --test kPa
  --speed N               so many seconds of the pipe in one; it begins --ago MIN before now
  --every S               seconds between readings; --silent FROM,TO: nothing is sent between these seconds
  --address URL --project KEY --sign-in NAME --password WORD`

/** Feeds a running test of the demo until the site refuses, the test ends, or a signal comes. */
export async function runLogger(
  args: string[],
  defaults: { project: string; name: string; password: string },
) {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: {
      address: { type: 'string', default: 'http://127.0.0.1:4300' },
      project: { type: 'string', default: defaults.project },
      'sign-in': { type: 'string', default: defaults.name },
      password: { type: 'string', default: defaults.password },
      story: { type: 'string', default: 'tight' },
      test: { type: 'string', default: '1500' },
      speed: { type: 'string', default: '1' },
      ago: { type: 'string', default: '0' },
      every: { type: 'string', default: '1' },
      silent: { type: 'string', default: '0,0' },
      over: { type: 'string', default: 'http' },
    },
  })
  const story = stories[values.story]
  const [number] = positionals
  if (!story || !number) throw new Error(usage)

  const { address, project } = values
  const cookie = await signIn(address, values['sign-in'], values.password)
  const pack = await packByNumber(address, project, number, cookie)
  const outbox = new Outbox({ address, project, pack }, cookie)
  const wall = Date.now()
  const begun = wall - Number(values.ago) * 60_000
  const speed = Number(values.speed)
  // A pipe that runs faster than the wall's clock begins where it began, and catches up.
  const clock = () => (speed === 1 ? Date.now() : Math.min(Date.now(), begun + (Date.now() - wall) * speed))
  const pipe = new PipeUnderTest(story(Number(values.test)), begun, { ...sound, repeats: 97 })
  const standIns = values.over === 'modbus' ? await startStandIns(pipe, clock) : null
  const gateway = standIns && new Gateway(standIns, outbox)
  const [from, to] = values.silent.split(',').map(Number) as [number, number]
  try {
    for (;;) {
      if (gateway) await gateway.poll()
      else {
        const reading = pipe.read(clock())
        if (reading) outbox.add(reading)
      }
      const since = (Date.now() - wall) / 1000
      const refused = since < from || since >= to ? await outbox.send() : null
      if (refused) throw new Error(refused)
      await sleep(Number(values.every) * 1000)
    }
  } finally {
    gateway?.close()
    await standIns?.stop()
  }
}
