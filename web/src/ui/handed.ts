import { useEffect, useRef } from 'react'

/** A file that somebody dropped elsewhere, handed to the page they said it belongs to. */
let held: { place: string; file: File } | null = null
const listeners = new Set<() => void>()

export function hand(place: string, file: File) {
  held = { place, file }
  listeners.forEach((l) => l())
}

/** Takes the file that was handed to this place, now or when it comes. */
export function useHanded(place: string | undefined, onFile: (file: File) => void) {
  const take = useRef(onFile)
  useEffect(() => {
    take.current = onFile
  })
  useEffect(() => {
    const look = () => {
      if (!place || held?.place !== place) return
      const { file } = held
      held = null
      take.current(file)
    }
    look()
    listeners.add(look)
    return () => void listeners.delete(look)
  }, [place])
}
