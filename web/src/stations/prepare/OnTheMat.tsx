import { useState } from 'react'
import { answer, client } from '../../api/client'
import { useJobNumber } from '../../api/job'
import { useOnce } from '../../ui/once'

const count = (all: readonly string[], number: string) => all.filter((n) => n === number).length

/** Parts are scanned onto the mat one by one: the right number in the right job. */
export function OnTheMat({ numbers, onAll }: { numbers: readonly string[]; onAll: () => void }) {
  const number = useJobNumber()
  const [text, setText] = useState('')
  const [here, setHere] = useState<readonly string[]>([])
  const [said, setSaid] = useState<{ ok: boolean; says: string } | null>(null)
  const [serials, setSerials] = useState<readonly string[]>([])
  const once = useOnce()
  const scan = async (label: string) => {
    try {
      const found = await answer(
        client.POST('/api/jobs/{number}/bench/scan', { params: { path: { number } }, body: { text: label } }),
      )
      const ok = found.outcome === 'planned'
      if (found.serial && serials.includes(found.serial))
        return setSaid({ ok: false, says: `This very piece was scanned before, serial ${found.serial}.` })
      if (found.serial) setSerials([...serials, found.serial])
      setSaid({ ok, says: ok ? `${found.number} lies on the mat.` : found.says })
      const wanted = count(numbers, found.number)
      if (!ok || count(here, found.number) >= wanted) return
      const now = [...here, found.number]
      setHere(now)
      if (now.length === numbers.length) onAll()
    } catch (e) {
      setSaid({ ok: false, says: (e as Error).message })
    }
  }
  if (!numbers.length) return null
  return (
    <form
      className="mt-1.5"
      onSubmit={(e) => {
        e.preventDefault()
        const label = text.trim()
        setText('')
        if (label) once(label, () => void scan(label))
      }}
    >
      <div className="flex flex-wrap items-center gap-2">
        <input
          data-scan
          aria-label="Scan a part onto the mat"
          placeholder="Scan a part onto the mat"
          className="num h-11 w-72"
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
        {[...new Set(numbers)].map((n) => {
          const [lie, wanted] = [count(here, n), count(numbers, n)]
          return (
            <span
              key={n}
              className={`num border px-1.5 text-[12.5px] ${lie === wanted ? 'border-gold bg-gold-soft' : 'border-hair text-ink-2'}`}
            >
              {n} {lie === wanted ? 'here' : wanted > 1 ? `${lie} of ${wanted}` : ''}
            </span>
          )
        })}
      </div>
      {said && (
        <span role="alert" className={said.ok ? 'text-seats' : 'text-refused font-semibold'}>
          {said.says}
        </span>
      )}
    </form>
  )
}
