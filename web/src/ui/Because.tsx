import type { Schemas } from '../api/client'

type Props = { because: readonly Schemas['Explained'][]; aside: readonly Schemas['Aside'][] }

/** What carries a verdict: each attribute with the claims and deductions that lead to it. And what was said besides, which
 * the verdict is the same without. */
export function Because({ because, aside }: Props) {
  return (
    <>
      <h3 className="mt-1 font-semibold">What it rests on</h3>
      {because.length ? <Chain because={because} /> : <p>It is so whatever is said of this machine.</p>}
      {!!aside.length && (
        <>
          <h3 className="mt-2 font-semibold">Said besides, and changes nothing here</h3>
          <dl>
            {aside.map((a, i) => (
              <div key={i} className="border-hair text-ink-2 border-t py-0.5">
                <dt>{a.label}</dt>
                <dd className="num pl-3 text-[11.5px]">{a.why ? `${a.says}: ${a.why}` : a.says}</dd>
              </div>
            ))}
          </dl>
        </>
      )}
    </>
  )
}

function Chain({ because }: { because: readonly Schemas['Explained'][] }) {
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
