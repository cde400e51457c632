import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useSearchParams } from 'react-router'
import { answer, client, type Schemas } from '../api/client'
import { ErrorNote, Heading } from '../ui/basics'
import { Labelled } from '../ui/fields'

/** Readers and calculators that work without a job; each shows its sum and its standard. */
export function Gauges() {
  const [params, setParams] = useSearchParams()
  const { data } = useQuery({
    queryKey: ['gauges'],
    queryFn: () => answer(client.GET('/api/gauges')),
    staleTime: Infinity,
  })
  const wanted = params.get('gauge')
  const gauge = data?.find((g) => g.id === wanted) ?? data?.[0]
  return (
    <main className="flex-1 overflow-y-auto px-6 py-4">
      <div className="mx-auto max-w-[1000px]">
        <Heading title="Gauges">
          Labels, codes and sums that need no job. Each shows its formula and where it is from.
        </Heading>
        <div className="grid grid-cols-[200px_1fr] gap-4">
          <nav aria-label="Gauges" className="card self-start py-1">
            {data?.map((g) => (
              <button
                key={g.id}
                data-row
                type="button"
                aria-current={g.id === gauge?.id}
                className={`hover:bg-gold-soft block w-full px-3 py-1.5 text-left ${g.id === gauge?.id ? 'bg-gold-soft font-semibold shadow-[inset_3px_0_0_var(--gold)]' : ''}`}
                onClick={() => setParams({ gauge: g.id }, { replace: true })}
              >
                {g.title}
              </button>
            ))}
          </nav>
          {gauge && <Face key={gauge.id} gauge={gauge} text={params.get('text') ?? ''} />}
        </div>
      </div>
    </main>
  )
}

function Face({ gauge, text }: { gauge: Schemas['Gauge']; text: string }) {
  const first = gauge.fields[0]?.name ?? ''
  const [values, setValues] = useState<Record<string, string>>(() =>
    Object.fromEntries(
      gauge.fields.map((f) => [f.name, text && f.name === first && f.kind === 'text' ? text : (f.example ?? '')]),
    ),
  )
  const { data, error } = useQuery({
    queryKey: ['gauge', gauge.id, values],
    queryFn: () => answer(client.POST('/api/gauges/{id}', { params: { path: { id: gauge.id } }, body: values })),
    placeholderData: (previous) => previous,
    retry: false,
  })
  const set = (name: string, value: string) => setValues({ ...values, [name]: value })
  return (
    <section className="min-w-0 space-y-3">
      <div className="card p-4">
        <h2 className="mb-2">{gauge.title}</h2>
        <div className="grid grid-cols-2 gap-3">
          {gauge.fields.map((f) => (
            <Labelled
              key={f.name}
              label={f.label}
              hint={f.unit}
              className={f.kind === 'text' || f.kind === 'long' ? 'col-span-2' : ''}
            >
              {(id) =>
                f.kind === 'choice' ? (
                  <select
                    id={id}
                    className="w-full"
                    value={values[f.name]}
                    onChange={(e) => set(f.name, e.target.value)}
                  >
                    {f.options?.map((o) => (
                      <option key={o}>{o}</option>
                    ))}
                  </select>
                ) : f.kind === 'long' ? (
                  <textarea
                    id={id}
                    rows={7}
                    className="num w-full text-[12px]"
                    placeholder="92 13 0b 08 04 …"
                    value={values[f.name]}
                    onChange={(e) => set(f.name, e.target.value)}
                  />
                ) : (
                  <input
                    id={id}
                    className="num w-full"
                    value={values[f.name]}
                    onChange={(e) => set(f.name, e.target.value)}
                  />
                )
              }
            </Labelled>
          ))}
        </div>
      </div>
      {error ? (
        <ErrorNote error={error} />
      ) : (
        data && (
          <div className="card p-4" aria-live="polite">
            <table className="w-full">
              <tbody>
                {data.lines.map((l) => (
                  <tr key={l.label} className="border-hair border-t first:border-t-0">
                    <td className="text-ink-2 w-56 py-1">{l.label}</td>
                    <td className="num py-1 font-semibold">{l.value}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            {data.sum && <p className="num mt-2">{data.sum}</p>}
            {data.remarks?.map((r) => (
              <p key={r} className="text-ink-2 mt-1 text-[12.5px]">
                {r}
              </p>
            ))}
          </div>
        )
      )}
      <p className="text-ink-2 text-[12.5px]">
        {gauge.formula}
        <br />
        {gauge.standard}
      </p>
    </section>
  )
}
