import { WebSerialLink } from '@/components/link/web-serial'
import { VirtualPort } from './browser-port'
import { ChipSpec } from './chip-spec'

const spec = () =>
  ChipSpec.parse({ family: 'LX106', flashBytes: 2 ** 20, flashId: '684014', strap: 'free', mac: '02:4c:59:10:20:45' })
const latin = new TextDecoder('latin1')
const heard = async (link: WebSerialLink, until: RegExp): Promise<string> => {
  let text = ''
  for (let i = 0; i < 200 && !until.test(text); i++) text += latin.decode(await link.read(50))
  return text
}

test('after its rate was changed every answer reaches the page: what pulled for the old rate takes none', async () => {
  for (let round = 0; round < 20; round++) {
    const link = await WebSerialLink.open(new VirtualPort(spec()), 74_880)
    await heard(link, /hello/)
    // What pulls for this rate sleeps when it is closed, and wakes some milliseconds after it was opened anew.
    await new Promise((done) => setTimeout(done, round))
    await link.changeRate(115_200)
    for (const n of [1, 2, 3]) {
      await new Promise((done) => setTimeout(done, 9))
      await link.write(new TextEncoder().encode(`relay ${n} on\r\n`))
      expect(await heard(link, new RegExp(`relay ${n} is on`))).toContain(`relay ${n} is on`)
    }
    await link.close()
  }
})

test('a port that was pulled is said to be gone', async () => {
  const port = new VirtualPort(spec())
  const link = await WebSerialLink.open(port, 74_880)
  await heard(link, /hello/)
  port.unplug()
  await expect(
    (async () => {
      for (let i = 0; i < 50; i++) await link.read(20)
    })(),
  ).rejects.toThrow(/unplugged/)
})
