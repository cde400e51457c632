import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { answer, client, type Schemas } from '../api/client'
import { ErrorNote } from '../ui/basics'
import { FigureInput } from '../ui/figure'

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
        <FigureInput
          aria-label="Mark-up on parts, per cent"
          className="w-14"
          late
          whole
          required
          value={data.markup_percent}
          onFigure={(percent) => save.mutate({ markup_percent: percent ?? 0 })}
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
