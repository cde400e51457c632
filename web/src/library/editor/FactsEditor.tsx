import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { Button } from '../../ui/basics'
import { vocabulary } from '../../words'
import { claimed, claims, stored, typedClaim, type Claim, type Json } from './draft'

/** Chosen in a list: one of several values, which are typed. */
const SEVERAL = '…'
const PLACEHOLDERS: Record<string, string> = {
  list: 'none, or a list',
  numbers: 'none, or a list',
  number: 'or more, at most',
  choice: 'B or M',
}

/** Facts as claims: a value with who says so, several where they disagree, none where nobody knows. */
export function FactsEditor({
  attributes,
  values,
  onChange,
}: {
  attributes: readonly Schemas['AttributeForm'][]
  values: Json
  onChange: (values: Json) => void
}) {
  const put = (name: string, next: Claim[]) => {
    const rest = { ...values }
    if (next.length) rest[name] = next
    else delete rest[name]
    onChange(rest)
  }
  return (
    <table className="w-full">
      <tbody>
        {attributes.map((a) => {
          const said = claims(values[a.name])
          return (
            <tr key={a.name} className="border-hair border-t align-top first:border-t-0">
              <td className="w-36 py-1 pr-2">
                {a.label}
                {a.unit && <span className="text-ink-2 ml-1 text-[12px]">{a.unit}</span>}
              </td>
              <td className="py-1">
                {said.map((c, i) => (
                  <ClaimRow
                    key={i}
                    attribute={a}
                    claim={c}
                    onChange={(next) =>
                      put(
                        a.name,
                        said.map((x, n) => (n === i ? next : x)),
                      )
                    }
                    onRemove={() =>
                      put(
                        a.name,
                        said.filter((_, n) => n !== i),
                      )
                    }
                  />
                ))}
                <Button kind="quiet" onClick={() => put(a.name, [...said, blank(a)])}>
                  {said.length ? 'another claim' : 'unknown: say what it is'}
                </Button>
              </td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}

const blank = (a: Schemas['AttributeForm']): Claim => ({
  value:
    a.kind === 'flag'
      ? false
      : a.options?.[0] && a.kind === 'choice'
        ? stored(a.options[0], a.kind, 1)
        : a.kind === 'list' || a.kind === 'numbers'
          ? []
          : '',
  source: 'documented',
})

function ClaimRow({
  attribute: a,
  claim,
  onChange,
  onRemove,
}: {
  attribute: Schemas['AttributeForm']
  claim: Claim
  onChange: (claim: Claim) => void
  onRemove: () => void
}) {
  const scale = a.scale ?? 1
  const [text, setText] = useState(typedClaim(claim, scale))
  const [several, setSeveral] = useState(!!claim.alternatives?.length)
  const set = (next: string) => {
    setText(next)
    onChange(claimed(claim, next, a.kind, scale))
  }
  const options = a.kind === 'flag' ? ['yes', 'no'] : a.kind === 'choice' && !several ? (a.options ?? []) : []
  return (
    <div className="mb-1 flex items-center gap-1">
      {options.length ? (
        <select
          aria-label={a.label}
          className="w-32"
          value={text}
          onChange={(e) => (e.target.value === SEVERAL ? setSeveral(true) : set(e.target.value))}
        >
          {options.map((o) => (
            <option key={o}>{o}</option>
          ))}
          {a.kind === 'choice' && <option value={SEVERAL}>one of several …</option>}
        </select>
      ) : (
        <input
          aria-label={a.label}
          className="num w-32"
          placeholder={PLACEHOLDERS[a.kind] ?? ''}
          title={
            a.kind === 'number'
              ? 'A figure, or "1.35 or more", "at most 2", "42 or 60"'
              : several
                ? 'as B or M'
                : undefined
          }
          value={text}
          onChange={(e) => set(e.target.value)}
        />
      )}
      <select
        aria-label={`${a.label}: who says so`}
        value={claim.source}
        onChange={(e) => onChange({ ...claim, source: e.target.value })}
      >
        {vocabulary().sources.map((s) => (
          <option key={s.id} value={s.id}>
            {s.id}
          </option>
        ))}
      </select>
      <input
        aria-label={`${a.label}: note`}
        placeholder="note"
        className="min-w-0 flex-1"
        value={claim.note ?? ''}
        onChange={(e) => onChange({ ...claim, note: e.target.value })}
      />
      <Button kind="quiet" aria-label={`Remove this claim on ${a.label}`} onClick={onRemove}>
        ×
      </Button>
    </div>
  )
}
