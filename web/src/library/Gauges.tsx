import { useQuery } from '@tanstack/react-query'
import { useSearchParams } from 'react-router'
import { answer, client } from '../api/client'
import { Heading } from '../ui/basics'

const NAMES: Record<string, string> = {
  capacity_gb: 'Capacity, GB',
  chip_width: 'Chip width',
  grade_mts: 'Grade, MT/s',
  cl: 'CL',
  module_type: 'Type letter',
  module_type_name: 'Module type',
  raw_card: 'Raw card',
  raw_card_revision: 'Raw card revision',
  spd_revision: 'SPD revision',
  low_voltage: 'Low voltage',
  density_gbit: 'Chip density, Gbit',
  width_mm: 'Width, mm',
  length_mm: 'Length, mm',
  height_code: 'Height code',
  above_um: 'Parts above, µm',
  below_um: 'Parts below, µm',
  keys: 'Keys',
}

/** Readers that work without a job. */
export function Gauges() {
  const [params, setParams] = useSearchParams()
  const text = params.get('text') ?? ''
  const { data } = useQuery({
    queryKey: ['find', text],
    queryFn: () => answer(client.GET('/api/find', { params: { query: { text } } })),
    enabled: !!text.trim(),
  })
  const fields = Object.entries(data?.decoded ?? {}).filter(([k, v]) => k !== 'kind' && v !== null && String(v) !== '')
  return (
    <main className="flex-1 overflow-y-auto px-6 py-4">
      <div className="mx-auto max-w-[800px]">
        <Heading title="What does this label prove?">
          Memory labels (DDR3, DDR4, DDR5) and M.2 module codes, by the standards’ own grammar.
        </Heading>
        <input
          autoFocus
          aria-label="Label"
          placeholder="16GB 2Rx8 PC4-3200AA-SE1-11 or 2280-D2-B-M"
          className="num w-full px-3 py-2 text-[14px]"
          value={text}
          onChange={(e) => setParams(e.target.value ? { text: e.target.value } : {}, { replace: true })}
        />
        {!text && (
          <p className="text-ink-2 mt-3">Type or scan a label. What it proves stands here, and what it leaves open.</p>
        )}
        {text && data?.problem && <p className="card text-refused mt-3 p-3">{data.problem}</p>}
        {!!fields.length && (
          <table className="card mt-3 w-full border-separate border-spacing-0">
            <tbody>
              {fields.map(([key, value]) => (
                <tr key={key} className="[&>td]:border-hair [&>td]:border-b [&>td]:px-3 [&>td]:py-1.5">
                  <td className="text-ink-2 w-56">{NAMES[key] ?? key.replaceAll('_', ' ')}</td>
                  <td className="num">{Array.isArray(value) ? value.join(', ') : String(value)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </div>
    </main>
  )
}
