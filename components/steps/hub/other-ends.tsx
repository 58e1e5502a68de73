import { dayWords } from '@fresh-coat/core/edge/day'
import { readJoined } from '@fresh-coat/core/steps/hub/joined'
import { AreaField, Choice, NumberField, SelectField, TextField, Tick } from '@/components/forms/fields'
import { useKept } from '@/components/frame/frame-context'
import { Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'

type Props = SurfaceProps<'hub'>
type Data = Props['record']['data']
type Radio = NonNullable<Data['bridge']>
type Local = NonNullable<Data['local']>

/** A unit that offers a radio to the hub, and one whose stock firmware the hub talks to. */

const emptyRadio: Radio = { port: null, baud: null, flow: 'none', radio: '', radioFirmware: '', joined: [] }
const emptyLocal: Local = { deviceId: '', keySecret: null, protocol: '', cloudBlocked: null, blockedOn: null }

function Joined({ radio, put }: { radio: Radio; put: (to: Partial<Radio>) => void }) {
  const [text, setText] = useKept('joined devices', '')
  const read = readJoined(text)
  const weakest = radio.joined.reduce<Radio['joined'][number] | null>(
    (weak, d) => (d.signal !== null && (weak?.signal == null || d.signal < weak.signal) ? d : weak),
    null,
  )
  return (
    <>
      {radio.joined.length > 0 && (
        <>
          <p>
            {radio.joined.length} joined to it
            {weakest && (
              <>
                ; the weakest is <strong>{weakest.name || weakest.address}</strong> at {weakest.signal} dB
              </>
            )}
            . Losing the bridge loses all of them: it is updated last, and alone.
          </p>
          <table className="plain">
            <thead>
              <tr>
                <th>Address</th>
                <th>Name</th>
                <th>Room</th>
                <th>Last heard</th>
                <th>Signal</th>
              </tr>
            </thead>
            <tbody>
              {radio.joined.map((d) => (
                <tr key={d.address}>
                  <td className="pin">{d.address}</td>
                  <td dir="auto">{d.name}</td>
                  <td dir="auto">{d.room}</td>
                  <td>{d.heard}</td>
                  <td className="pin">{d.signal === null ? '' : `${d.signal} dB`}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
      <AreaField
        label="What is joined to it, as the hub lists it: address, name, room, last heard, signal; one to a line"
        rows={4}
        value={text}
        maxLength={60_000}
        onChange={setText}
      />
      {text.trim() !== '' && (
        <p>
          {read.joined.length} read.
          {read.unread.length > 0 && (
            <span className="text-ochre"> No address in: {read.unread.slice(0, 3).join('; ')}.</span>
          )}{' '}
          <button
            type="button"
            className="underline underline-offset-4"
            disabled={read.joined.length === 0}
            onClick={() => {
              put({ joined: read.joined })
              setText('')
            }}
          >
            Take this list
          </button>
        </p>
      )}
    </>
  )
}

export function BridgeRadio({ view, record: { data, patch } }: Props) {
  const radio = data.bridge
  if (!radio)
    return (
      <Tick
        label="It offers a radio to the hub over the network"
        checked={false}
        onChange={(is) => patch({ bridge: is ? emptyRadio : null })}
      />
    )
  const put = (to: Partial<Radio>) => patch({ bridge: { ...radio, ...to } })
  const { address } = view.records.join.data
  return (
    <div className="grid gap-3">
      <p>
        The hub reaches it at{' '}
        <span className="pin">
          {address && radio.port !== null ? `${address}:${radio.port}` : 'no address and port yet'}
        </span>
        . One hub at a time: two listeners on one radio corrupt it.
      </p>
      {!view.records.name.data.reserved && (
        <p className="flex gap-2.5">
          <Tag severity="watch">watch</Tag> Its address is not reserved: when it changes, everything joined to it is
          gone.
        </p>
      )}
      <div className="grid gap-3 sm:grid-cols-2">
        <NumberField label="Port" whole min={1} max={65535} value={radio.port} onChange={(port) => put({ port })} />
        <NumberField
          label="Serial speed"
          unit="baud"
          whole
          min={1}
          max={10_000_000}
          value={radio.baud}
          onChange={(baud) => put({ baud })}
        />
        <Choice
          label="Flow control"
          value={radio.flow}
          options={[
            { value: 'none', label: 'none' },
            { value: 'hardware', label: 'by lines' },
            { value: 'software', label: 'by characters' },
          ]}
          onChange={(flow) => put({ flow })}
        />
        <TextField label="Kind of radio" value={radio.radio} maxLength={120} onChange={(to) => put({ radio: to })} />
        <TextField
          label="Its firmware"
          value={radio.radioFirmware}
          maxLength={120}
          onChange={(radioFirmware) => put({ radioFirmware })}
        />
      </div>
      <Joined radio={radio} put={put} />
      <Tick label="It offers a radio" checked onChange={() => patch({ bridge: null })} />
    </div>
  )
}

export function LocalControl({ view, choices, record: { data, patch } }: Props) {
  const local = data.local ?? emptyLocal
  const put = (to: Partial<Local>) => patch({ local: { ...local, ...to } })
  return (
    <div className="grid gap-3">
      <p>
        Its key changes whenever it is paired again: then the hub’s details have to be put in anew. One connection at a
        time is usual: close the phone app.
      </p>
      <TextField
        label="What it calls itself"
        value={local.deviceId}
        maxLength={120}
        onChange={(deviceId) => put({ deviceId })}
      />
      <SelectField
        label="Its local key"
        value={local.keySecret}
        options={choices.secrets.map((s) => ({ value: s.id, label: s.name }))}
        onChange={(keySecret) => put({ keySecret })}
        hint={choices.secrets.length === 0 ? 'Keep it under Secrets first.' : ''}
      />
      <TextField
        label="Version of its protocol"
        value={local.protocol}
        maxLength={40}
        onChange={(protocol) => put({ protocol })}
      />
      <Choice
        label="Is the way to its maker’s cloud blocked at the router?"
        value={local.cloudBlocked}
        options={[
          { value: 'yes', label: 'blocked' },
          { value: 'no', label: 'open' },
        ]}
        onChange={(cloudBlocked) => put({ cloudBlocked, blockedOn: cloudBlocked === 'yes' ? view.today : null })}
      />
      {local.cloudBlocked === 'yes' && local.blockedOn && (
        <p className="text-ink-2">Blocked since {dayWords(local.blockedOn)}.</p>
      )}
      {local.cloudBlocked === 'no' && (
        <p className="flex gap-2.5">
          <Tag severity="watch">watch</Tag> While it is open, its maker may change its firmware, and with it the key.
        </p>
      )}
      <p className="text-ink-2">
        Which of its raw values is what:{' '}
        <a className="underline underline-offset-4" href={`/units/${view.number}/meter`}>
          Meter
        </a>
        .
      </p>
    </div>
  )
}
