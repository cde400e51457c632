import type { Schemas } from '../../api/client'

/** One candidate: how likely, what matched it, what spoke against it. */
export function Row({
  candidate: c,
  chosen,
  onChoose,
}: {
  candidate: Schemas['Candidate']
  chosen: boolean
  onChoose: () => void
}) {
  return (
    <button
      data-row
      type="button"
      aria-pressed={chosen}
      onClick={onChoose}
      className={`border-hair hover:bg-gold-soft flex w-full items-center justify-between gap-3 border-b px-3 py-2 text-left ${
        chosen ? 'bg-gold-soft shadow-[inset_3px_0_0_var(--gold)]' : ''
      }`}
    >
      <span>
        <span className="font-semibold">{c.title}</span>
        <span className="text-ink-2 ml-2">{c.processor}</span>
        {!!c.matched.length && <span className="text-seats block text-[12.5px]">matched: {c.matched.join(', ')}</span>}
        {!!c.against.length && (
          <span className="text-refused block text-[12.5px]">against: {c.against.join(', ')}</span>
        )}
      </span>
      <span className="num whitespace-nowrap">{chosen ? 'chosen' : `${Math.round(c.share * 100)} %`}</span>
    </button>
  )
}
