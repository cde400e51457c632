import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { answer, client, type Schemas } from '../api/client'
import { ErrorNote } from '../ui/basics'

/** What the workshop lays on what parts cost it (a part's own selling price stands), and the makes it approves of. */
export function Markup() {
  const cache = useQueryClient()
  const { data } = useQuery({ queryKey: ['workshop'], queryFn: () => answer(client.GET('/api/workshop')) })
  const save = useMutation({
    mutationFn: (change: Partial<Schemas['Workshop']>) =>
      answer(client.PUT('/api/workshop', { body: { ...data!, ...change } })),
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
            if (e.target.value.trim() && percent !== data.markup_percent) save.mutate({ markup_percent: percent })
          }}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        />
        %
      </label>
      <label className="flex items-center gap-1.5 whitespace-nowrap">
        Approved makes
        <input
          key={data.approved_makes.join()}
          aria-label="Approved makes, with commas"
          className="w-44"
          placeholder="none kept to"
          defaultValue={data.approved_makes.join(', ')}
          onBlur={(e) => {
            const makes = [
              ...new Set(
                e.target.value
                  .split(',')
                  .map((m) => m.trim())
                  .filter(Boolean),
              ),
            ]
            if (makes.join() !== data.approved_makes.join()) save.mutate({ approved_makes: makes })
          }}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        />
      </label>
      <ErrorNote error={save.error} />
    </>
  )
}
