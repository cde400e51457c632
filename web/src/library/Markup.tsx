import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { answer, client } from '../api/client'
import { ErrorNote } from '../ui/basics'

/** What the workshop lays on what parts cost it; a part's own selling price stands. */
export function Markup() {
  const cache = useQueryClient()
  const { data } = useQuery({ queryKey: ['workshop'], queryFn: () => answer(client.GET('/api/workshop')) })
  const save = useMutation({
    mutationFn: (markup_percent: number) => answer(client.PUT('/api/workshop', { body: { markup_percent } })),
    onSuccess: () => cache.invalidateQueries(),
  })
  if (!data) return null
  return (
    <>
      <label className="flex items-center gap-1.5 whitespace-nowrap">
        Mark-up
        <input
          key={data.markup_percent}
          aria-label="Mark-up on parts, per cent"
          inputMode="numeric"
          className="num w-14"
          defaultValue={data.markup_percent}
          onBlur={(e) => {
            const percent = Number(e.target.value)
            if (e.target.value.trim() && percent !== data.markup_percent) save.mutate(percent)
          }}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        />
        %
      </label>
      <ErrorNote error={save.error} />
    </>
  )
}
