import type { Schemas } from '../api/client'

/** How often this was it on the workshop's own jobs. */
export function Seen({ tried }: { tried: Schemas['Tried'] | undefined }) {
  const times = (tried?.helped ?? 0) + (tried?.no_help ?? 0)
  if (!times) return null
  return (
    <span className="text-ink-2 block text-[12px] font-normal">
      was it {tried?.helped ?? 0} of {times} times here
    </span>
  )
}
