import mqtt, { type MqttClient } from 'mqtt'
import { type Order, standInTopic } from './orders'

/** A hub that stands in for a real one: it shows the states it hears, and switches a unit as any hub does. */
export class VirtualHub {
  private readonly shown = new Map<string, boolean>()
  private constructor(private readonly client: MqttClient) {}

  /** @param url of the broker  @throws where it does not answer within five seconds */
  static async at(url: string): Promise<VirtualHub> {
    const client = await mqtt.connectAsync(url, { protocolVersion: 4, connectTimeout: 5000, reconnectPeriod: 0 }, false)
    const hub = new VirtualHub(client)
    client.on('error', () => {})
    client.on('message', (topic, payload) => hub.shown.set(topic, payload.toString() === 'true'))
    return hub
  }

  /** What it shows of a channel; null while it has heard nothing. @param waitMs how long a kept state may take to come */
  async shows(topic: string, channel: string, waitMs = 400): Promise<boolean | null> {
    const name = `${topic}/${channel}/state`
    await this.client.subscribeAsync(name, { qos: 1 })
    for (let waited = 0; waited < waitMs && !this.shown.has(name); waited += 20)
      await new Promise((done) => setTimeout(done, 20))
    return this.shown.get(name) ?? null
  }

  async switchTo(topic: string, channel: string, on: boolean): Promise<void> {
    await this.client.publishAsync(`${topic}/${channel}/set`, String(on), { qos: 1, retain: false })
  }

  async order(order: Order): Promise<void> {
    await this.client.publishAsync(`${standInTopic}/order`, JSON.stringify(order), { qos: 1 })
  }

  end(): Promise<void> {
    return this.client.endAsync()
  }
}
