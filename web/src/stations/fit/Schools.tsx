import { useQuery } from '@tanstack/react-query'
import { useFitSource } from './source'

/** The same matrix under each school: asked for after the rows are there. */
export function Schools({ limits }: { limits: string }) {
  const source = useFitSource()
  const { data } = useQuery({
    queryKey: [...source.key, 'schools'],
    queryFn: source.schools,
    placeholderData: (previous) => previous,
  })
  if (!data) return null
  const here = data[limits] ?? 0
  const others = Object.entries(data).filter(([id, n]) => id !== limits && n !== here)
  if (!others.length) return <span>Other schools give the same.</span>
  return (
    <span className="text-[12.5px]">
      {others
        .map(([id, n]) => `under ${id} ${Math.abs((n ?? 0) - here)} ${(n ?? 0) > here ? 'more' : 'fewer'} seat`)
        .join(' · ')}
    </span>
  )
}
