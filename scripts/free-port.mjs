// free-port.mjs FIRST HOST: prints the first port from FIRST on that nobody listens on.
import { createServer } from 'node:net'

const [first, host] = [Number(process.argv[2]), process.argv[3]]
const free = (port) =>
  new Promise((resolve) => {
    const server = createServer()
    server.once('error', () => resolve(false))
    server.listen(port, host, () => server.close(() => resolve(true)))
  })
for (let port = first; port < Math.min(first + 50, 65_536); port++) {
  if (await free(port)) {
    if (port !== first) console.error(`Port ${first} is taken; using ${port}. PORT=N chooses another.`)
    // Not console.log: it colours numbers where colours are asked for.
    process.stdout.write(`${port}\n`)
    process.exit(0)
  }
}
console.error(`No free port from ${first} to ${first + 49}: PORT=N chooses another.`)
process.exit(1)
