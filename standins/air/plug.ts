import mqtt, { type MqttClient } from 'mqtt'

/** A unit on the air as the site's own tree has it: it says what it is, does what it is told, and draws what hangs on it. */
export interface VirtualUnit {
  topic: string
  firmware: string
  channels: readonly string[]
  /** Watts with channel 1 on; null: it does not measure. */
  watts: number | null
  /** Seconds between two reports. */
  everyS: number
  rssi: number
  /** The address that it says it has. */
  ip?: string
  /** It comes and goes, so many seconds each; 0: it stays. */
  flutterS?: number
  /** It says nothing more after so many seconds; 0: it goes on. */
  silentAfterS?: number
}

export class VirtualUnitOnAir {
  private client: MqttClient | null = null
  private readonly on = new Map<string, boolean>()
  private readonly timers: NodeJS.Timeout[] = []
  private readonly from = Date.now()
  private kWh: number
  private muted = false

  constructor(
    private readonly url: string,
    private readonly unit: VirtualUnit,
    private readonly random: () => number,
  ) {
    for (const c of unit.channels) this.on.set(c, random() < 0.5)
    this.kWh = Math.round(random() * 400) / 10
    this.connect()
    this.timers.push(setInterval(() => this.report(), unit.everyS * 1000))
    if (unit.flutterS) this.timers.push(setInterval(() => this.flutter(), unit.flutterS * 1000))
  }

  private connect(): void {
    const { topic } = this.unit
    const client = mqtt.connect(this.url, {
      protocolVersion: 4,
      clean: true,
      reconnectPeriod: 3000,
      will: { topic: `${topic}/online`, payload: Buffer.from('0'), qos: 1, retain: true },
    })
    this.client = client
    client.on('error', () => {})
    client.on('connect', () => {
      client.publish(`${topic}/online`, '1', { qos: 1, retain: true })
      for (const [channel, on] of this.on) this.sayState(channel, on)
      client.subscribe(`${topic}/+/set`, { qos: 1 })
      this.report()
    })
    client.on('message', (name, payload) => {
      const channel = name.split('/').at(-2) ?? ''
      const wanted = payload.toString() === 'true'
      if (!this.on.has(channel)) return
      // A relay takes its time, and the air does too.
      setTimeout(
        () => {
          this.on.set(channel, wanted)
          this.sayState(channel, wanted)
          this.report()
        },
        60 + this.random() * 200,
      )
    })
  }

  private sayState(channel: string, on: boolean): void {
    this.client?.publish(`${this.unit.topic}/${channel}/state`, String(on), { qos: 1, retain: true })
  }

  private report(): void {
    const { topic, firmware, watts, everyS, rssi, ip, silentAfterS = 0 } = this.unit
    const upS = Math.round((Date.now() - this.from) / 1000)
    this.muted = silentAfterS > 0 && upS > silentAfterS
    if (!this.client?.connected || this.muted) return
    const health = {
      fw: firmware,
      upS,
      rssi: Math.round(rssi + 4 * this.random() - 2),
      at: new Date().toISOString(),
      ip,
    }
    this.client.publish(`${topic}/health`, JSON.stringify(health), { retain: true })
    if (watts === null) return
    const V = 229 + 4 * this.random()
    const P = this.on.get('1') ? watts * (0.99 + 0.02 * this.random()) : 0
    this.kWh += (P * everyS) / 3.6e6
    const meter = { V: round(V, 1), I: round(P / V, 3), P: round(P, 1), E: round(this.kWh, 4) }
    this.client.publish(`${topic}/meter`, JSON.stringify(meter))
  }

  private flutter(): void {
    if (this.client?.connected) {
      // Torn off, not taken leave of: the broker sends the will.
      this.client.stream.destroy()
    }
  }

  /** A person presses its button: the channel turns over, and it says so. */
  press(channel = '1'): void {
    const on = !this.on.get(channel)
    this.on.set(channel, on)
    this.client?.publish(`${this.unit.topic}/${channel}/event`, '"press"', { qos: 1 })
    this.sayState(channel, on)
  }

  get topic(): string {
    return this.unit.topic
  }

  isOn(channel: string): boolean | null {
    return this.on.get(channel) ?? null
  }

  /** Switched over its own page: it says so on the air as well. False where it has no such channel. */
  switchTo(channel: string, on: boolean): boolean {
    if (!this.on.has(channel)) return false
    this.on.set(channel, on)
    this.sayState(channel, on)
    this.report()
    return true
  }

  /** What it draws now; null where it does not measure. */
  get drawnW(): number | null {
    const { watts } = this.unit
    return watts === null ? null : this.on.get('1') ? watts : 0
  }

  async end(): Promise<void> {
    for (const t of this.timers) clearInterval(t)
    await this.client?.endAsync(true).catch(() => {})
  }
}
const round = (n: number, digits: number): number => Number(n.toFixed(digits))
