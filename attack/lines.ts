import { spawn } from 'node:child_process'
import { commands } from '../cli/commands'
import { each, Tally } from './tally'

/** Command lines that nobody means: always one answer in words, exit code 0, 1 or 2. */

const inputs = [
  '',
  '{',
  'null',
  '[]',
  '{}',
  '"x"',
  '{"a":1}',
  '\0',
  '\xff',
  `{"evidence":${'['.repeat(2000)}${']'.repeat(2000)}}`,
  JSON.stringify({
    evidence: [{ kind: 'marking', counts: Object.fromEntries(Array.from({ length: 10_000 }, (_, i) => [`F${i}`, 1])) }],
  }),
]
const words = [
  '',
  '--',
  '--in',
  '--table-offset',
  '--family',
  '--flash-bytes',
  '-1',
  '0x',
  '/etc/passwd',
  '/dev/null',
  '/nonexistent',
  '-',
  '--text',
  '--mode',
  'DOUT',
  '684014',
  '--nonsense',
  'ÿ',
  'a'.repeat(5000),
]

interface Ended {
  code: number | null
  out: string
  ms: number
}
function call(line: readonly string[], input: string): Promise<Ended> {
  return new Promise((done) => {
    const from = performance.now()
    const child = spawn('bin/fresh-coat', [...line], { stdio: ['pipe', 'pipe', 'ignore'] })
    let out = ''
    child.stdout.on('data', (piece) => {
      out += piece
    })
    child.stdin.on('error', () => {})
    child.stdin.end(input)
    const timer = setTimeout(() => child.kill('SIGKILL'), 20_000)
    child.on('close', (code) => {
      clearTimeout(timer)
      done({ code, out, ms: performance.now() - from })
    })
  })
}

function wrongEnd({ code, out }: Ended, line: readonly string[]): string | null {
  if (code === null || code > 2) return `exit ${code}`
  if (line[0] === 'help' || line.length === 0 || line.includes('--text'))
    return out.trim() === '' && code === 0 ? 'nothing was said' : null
  try {
    const answer = JSON.parse(out) as { ok: boolean; error?: { code: string; message: string } }
    if (code === 2) return answer.ok === false && answer.error?.message ? null : 'exit 2 without an error'
    return answer.ok ? null : `exit ${code} with an error`
  } catch {
    return `no JSON: ${out.slice(0, 100)}`
  }
}

export async function badLines(count: number): Promise<Tally> {
  const tally = new Tally('command lines', 4000)
  const names = Object.keys(commands)
  const lines = Array.from({ length: count }, (_, i) => {
    const name = (names[i % names.length] as string).split(' ')
    const extra = Array.from({ length: i % 4 }, (_, k) => words[(i * 7 + k * 5) % words.length] as string)
    return { line: i % 11 === 10 ? extra : [...name, ...extra], input: inputs[i % inputs.length] as string }
  })
  await each(lines, 2, async ({ line, input }) => {
    const ended = await call(line, input)
    tally.note(
      `${line.join(' ').slice(0, 100)} < ${JSON.stringify(input).slice(0, 40)}`,
      ended.ms,
      wrongEnd(ended, line),
    )
  })
  return tally
}
