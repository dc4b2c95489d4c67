import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { calculators } from '../../core/calculators/registry'
import { facts180 } from '../core/support'

const root = join(import.meta.dirname, '../..')
/** The command as a person or a script runs it. */
function vetLine(args: string[], input = '', cwd = root) {
  const run = spawnSync(join(root, 'vet-line'), args, { cwd, input, encoding: 'utf8' })
  return { code: run.status, lines: run.stdout.trim().split('\n'), said: run.stderr.trim() }
}
const answers = (requests: unknown[]) =>
  vetLine(
    ['calc', '--batch'],
    requests.map((r) => (typeof r === 'string' ? r : JSON.stringify(r))).join('\n'),
  ).lines.map(
    (l) =>
      JSON.parse(l) as {
        outputs?: Record<string, unknown>
        error?: { code: string; message: string; input: string | null }
      },
  )

describe('calc', () => {
  it('without a key lists every calculator with its inputs', () => {
    const { code, lines } = vetLine(['calc'])
    expect(code).toBe(0)
    expect(lines.map((l) => l.split(' ')[0]).sort()).toEqual(calculators.map((c) => c.key).sort())
  })
  it('one calculation by arguments, with units and lists', () => {
    const { code, lines } = vetLine(['calc', 'joint-gap', 'gaps=20 mm; 10 mm; 0; 10 mm', 'diameter=1 m'])
    expect(code).toBe(0)
    expect(JSON.parse(lines[0]!).outputs).toMatchObject({
      mean: { value: 0.01, unit: 'm' },
      direction: { value: 0, unit: 'deg' },
    })
  })
  it('inputs as JSON on standard input', () =>
    expect(
      JSON.parse(vetLine(['calc', '--json', 'gouge'], '{"depth":"1 mm","wall":"1 cm"}').lines[0]!).outputs
        .percent.value,
    ).toBeCloseTo(10, 9))
  it('a refused input ends with code 2, and names it', () => {
    const { code, lines } = vetLine(['calc', 'gouge', 'depth=2 cm', 'wall=1 cm'])
    expect(code).toBe(2)
    expect(JSON.parse(lines[0]!).error).toMatchObject({
      input: 'depth',
      message: expect.stringContaining('holed'),
    })
  })
  it('a batch answers line by line, whatever stands in a line', () => {
    const got = answers([
      { key: 'grade', inputs: { upstream: 10, downstream: 9, distance: 100 } },
      'not json',
      '[]',
      '"text"',
      'null',
      { key: 'no-such', inputs: {} },
      { key: 'grade' },
      { key: 'grade', inputs: [1] },
      { key: 'grade', inputs: { upstream: 10, downstream: 9, distance: 0 } },
      { key: 'grade', inputs: { upstream: 10, downstream: 9, distance: 100, colour: 'red' } },
      { key: 'grade', inputs: { upstream: '10 bar', downstream: 9, distance: 100 } },
      { key: '__proto__', inputs: {} },
      { key: 'grade', inputs: { upstream: 2, downstream: 1, distance: '100 ft' } },
    ])
    expect(got.map((a) => a.error?.code ?? 'answer')).toEqual([
      'answer',
      'bad-json',
      'unknown-calculator',
      'unknown-calculator',
      'unknown-calculator',
      'unknown-calculator',
      'bad-inputs',
      'bad-inputs',
      'out-of-bounds',
      'unknown-input',
      'wrong-dimension',
      'unknown-calculator',
      'answer',
    ])
    expect(got.filter((a) => a.error).every((a) => a.error!.message.endsWith('.'))).toBe(true)
  })
  it('a thousand lines go through one process', () => {
    const got = answers(
      Array.from({ length: 1000 }, (_v, i) => ({
        key: 'soil-prism',
        inputs: { depth: i, unitWeight: 1000 },
      })),
    )
    expect(got.map((a) => (a.outputs!.pressure as { value: number }).value)).toEqual(
      Array.from({ length: 1000 }, (_v, i) => i * 1000),
    )
  })
})

describe('evaluate', () => {
  const cases = JSON.parse(readFileSync(join(root, 'tests/reference/test-cases.json'), 'utf8')) as {
    request: object
    expect: { verdict?: string; error?: string }
  }[]
  it('a batch judges tests line by line, and names what is wrong with a line', () => {
    const lines = [...cases.map((c) => JSON.stringify(c.request)), 'not json', '[]']
    const { code, lines: out } = vetLine(['evaluate', '--batch'], lines.join('\n'))
    const said = out.map((l) => JSON.parse(l) as { verdict?: string; error?: { input: string | null } })
    expect([code, said.length]).toEqual([0, lines.length])
    cases.forEach(({ expect: wanted }, i) => {
      if (wanted.error) expect(said[i]!.error!.input).toBe(wanted.error)
      else expect(said[i]!.verdict).toBe(wanted.verdict)
    })
    expect(said.slice(cases.length).map((s) => s.error?.input)).toEqual([null, 'request'])
  })
  it('one alone ends with code 2 when it is refused', () => {
    expect(vetLine(['evaluate'], JSON.stringify(cases[0]!.request)).code).toBe(0)
    expect(vetLine(['evaluate'], '{}').code).toBe(2)
  })
})

describe('judge', () => {
  const folder = mkdtempSync(join(tmpdir(), 'vet line judge-'))
  const record = (name: string, change: object) => {
    const file = join(folder, name)
    writeFileSync(
      file,
      JSON.stringify({
        procedure: join(root, 'procedures/pe-electrofusion-socket.yaml'),
        facts: facts180,
        now: '2026-03-09T12:00:00Z',
        entries: [],
        ...change,
      }),
    )
    return file
  }
  const gouge = (mm: number) => ({
    id: '01900000-0000-7000-8000-000000000001',
    kind: 'reading',
    step: 'gouge',
    payload: { values: [mm / 1000], typed: [`${mm}`] },
    person: 'mara',
    role: 'crew-lead',
    recordedAt: '2026-03-09T08:00:00Z',
  })
  it('says of each step how it stands; a rejected joint ends with code 1', () => {
    const good = vetLine(['judge', record('good.json', { entries: [gouge(0.2)] })])
    expect(good.code).toBe(0)
    expect(JSON.parse(good.lines[0]!).steps.find((s: { key: string }) => s.key === 'gouge').state).toBe(
      'accepted',
    )
    const bad = vetLine(['judge', record('bad.json', { entries: [gouge(9)] })])
    expect([bad.code, JSON.parse(bad.lines[0]!).state]).toEqual([1, 'rejected'])
  })
  it('a batch judges reaches line by line, and says what is wrong with a line', () => {
    const cases = JSON.parse(readFileSync(join(root, 'tests/reference/reach-cases.json'), 'utf8')) as {
      record: { entries: object[] }
      expect: { refused: true } | { step: string; state: string; codes?: Record<string, string[]> }[]
    }[]
    const lines = [
      ...cases.map((c) => JSON.stringify(c.record)),
      'not json',
      JSON.stringify({ procedure: 'nowhere.yaml', facts: {}, entries: [] }),
      JSON.stringify({ facts: {}, entries: [] }),
      JSON.stringify({ ...cases[0]!.record, now: 'noon' }),
    ]
    const { code, lines: out } = vetLine(['judge', '--batch'], lines.join('\n'))
    const said = out.map(
      (l) =>
        JSON.parse(l) as {
          steps?: { key: string; state: string; findings: { entry?: string; code?: string }[] }[]
          error?: { code: string }
        },
    )
    expect([code, said.length]).toEqual([0, lines.length])
    expect(said.slice(cases.length).map((a) => a.error?.code)).toEqual([
      'bad-json',
      'not-found',
      'bad-record',
      'bad-time',
    ])
    cases.forEach((c, i) => {
      if ('refused' in c.expect) return expect(said[i]!.error?.code).toBe('bad-procedure')
      for (const { step, state, codes } of c.expect) {
        const found = said[i]!.steps!.find((x) => x.key === step)!
        expect([step, found.state]).toEqual([step, state])
        for (const [entry, list] of Object.entries(codes ?? {}))
          expect(found.findings.filter((f) => f.entry === entry).map((f) => f.code)).toEqual(list)
      }
    })
  })
  it('the procedure is found beside where one stands, also in a folder with a space', () => {
    writeFileSync(join(folder, 'own.yaml'), 'key: [')
    const run = vetLine(['judge', record('near.json', { procedure: 'own.yaml' })], '', folder)
    expect(run.code).toBe(2)
    expect(run.said).toMatch(/line 1/i)
  })
  it.each([
    ['a file that is not there', 'nowhere.json', /cannot be read/],
    ['no file', undefined, /Name the record/],
  ])('%s is said', (_what, file, sentence) => {
    const run = vetLine(file ? ['judge', file] : ['judge'])
    expect(run.code).toBe(2)
    expect(run.said).toMatch(sentence)
  })
})

describe('procedure', () => {
  it('check says what it read, or where it is wrong', () => {
    expect(
      JSON.parse(vetLine(['procedure', 'check', 'procedures/bolted-coupling.yaml']).lines[0]!),
    ).toMatchObject({ ok: true, key: 'bolted-coupling', revision: 'A' })
    const file = join(mkdtempSync(join(tmpdir(), 'vet-line-')), 'bad.yaml')
    writeFileSync(file, 'key: x\nrevision: A\n')
    const run = vetLine(['procedure', 'check', file])
    expect([run.code, JSON.parse(run.lines[0]!).ok]).toEqual([2, false])
  })
  it('schema is a JSON Schema', () =>
    expect(JSON.parse(vetLine(['procedure', 'schema']).lines.join('\n')).$schema).toContain(
      'json-schema.org',
    ))
})

describe('the command itself', () => {
  it.each([
    [['wish'], 2, /no command "wish"/],
    [['demo', '--port', 'many'], 2, /not a port/],
    [['start', '--port', '70000'], 2, /not a port/],
  ])('%j is refused with a sentence', (args, code, sentence) => {
    const run = vetLine(args as string[])
    expect(run.code).toBe(code)
    expect(run.said).toMatch(sentence as RegExp)
    expect(run.said).not.toMatch(/at .*\.ts:\d+/)
  })
  it('help names every command', () => {
    const text = vetLine(['help']).lines.join('\n')
    for (const word of [
      'demo',
      'start',
      'stop',
      'test',
      'calc',
      'judge',
      'procedure',
      'verify',
      'backup',
      'restore',
    ])
      expect(text).toContain(word)
  })
  it('a reader that closes the pipe early is no fault', () => {
    const run = spawnSync('sh', ['-c', `"${join(root, 'vet-line')}" calc | head -n 1`], { encoding: 'utf8' })
    expect(run.stderr).toBe('')
    expect(run.stdout.trim().split('\n')).toHaveLength(1)
  })
})
