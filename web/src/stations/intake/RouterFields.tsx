import type { Schemas } from '../../api/client'
import { at, useEdit, useJob } from '../../api/job'
import { Labelled } from '../../ui/fields'

type Router = Schemas['RadioSide']
const KINDS: [string, Router | null][] = [
  ['not known', null],
  ['802.11n, 2 streams', { standard: 'n', streams: 2, width_mhz: 40, bands: ['2.4', '5'] }],
  ['802.11ac, 2 streams, 80 MHz', { standard: 'ac', streams: 2, width_mhz: 80, bands: ['2.4', '5'] }],
  ['802.11ax, 2 streams, 80 MHz', { standard: 'ax', streams: 2, width_mhz: 80, bands: ['2.4', '5'] }],
  ['802.11ax, 4 streams, 160 MHz', { standard: 'ax', streams: 4, width_mhz: 160, bands: ['2.4', '5'] }],
  ['802.11ax with 6 GHz', { standard: 'ax', streams: 4, width_mhz: 160, bands: ['2.4', '5', '6'] }],
  ['802.11be with 6 GHz', { standard: 'be', streams: 4, width_mhz: 320, bands: ['2.4', '5', '6'] }],
]
const same = (a: Router | null, b: Router | null) =>
  a === b ||
  (!!a &&
    !!b &&
    a.standard === b.standard &&
    a.streams === b.streams &&
    a.width_mhz === b.width_mhz &&
    String(a.bands) === String(b.bands))

/** The router the machine meets: it caps what a radio is credited with. */
export function RouterFields() {
  const { view } = useJob()
  const edit = useEdit()
  const router = (at(view?.job, '/intake/router') as Router | null | undefined) ?? null
  const index = KINDS.findIndex(([, k]) => same(k, router))
  return (
    <Labelled label="Router it meets" className="col-span-2">
      {(id) => (
        <select
          id={id}
          className="w-full"
          value={index}
          onChange={(e) => edit('/intake/router', KINDS[Number(e.target.value)]?.[1] ?? null)}
        >
          {index < 0 && router && (
            <option value={-1}>
              802.11{router.standard}, {router.streams} streams, {router.width_mhz} MHz
            </option>
          )}
          {KINDS.map(([name], i) => (
            <option key={name} value={i}>
              {name}
            </option>
          ))}
        </select>
      )}
    </Labelled>
  )
}
