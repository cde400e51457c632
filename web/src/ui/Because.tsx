import type { Schemas } from '../api/client'

/** What a verdict rests on: each attribute with the claims and deductions that lead to it. */
export function Because({ because }: { because: readonly Schemas['Explained'][] }) {
  return (
    <dl>
      {because.map((e) => (
        <div key={e.place} className="border-hair border-t py-0.5">
          <dt>
            {e.label}: <span className="num font-semibold">{e.value}</span>
            {e.conflict && <span className="text-refused"> claims disagree</span>}
          </dt>
          {(e.steps ?? []).map((s) => (
            <dd key={s} className="text-ink-2 num pl-3 text-[11.5px]">
              {s}
            </dd>
          ))}
        </div>
      ))}
    </dl>
  )
}
