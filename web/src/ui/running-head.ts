import { useEffect } from 'react'

/** As CSS writes a string. */
export const quoted = (text: string) => `"${text.replace(/["\\]/g, '\\$&').replace(/\s+/g, ' ')}"`

/** What stands at the head of each page of a paper while it is shown; page x of y stands at the foot of every one. */
export function useRunningHead(text: string) {
  useEffect(() => {
    const sheet = new CSSStyleSheet()
    sheet.replaceSync(`@page { @top-left { content: ${quoted(text)}; font: 9pt 'Barlow', sans-serif; } }`)
    document.adoptedStyleSheets = [...document.adoptedStyleSheets, sheet]
    return () => {
      document.adoptedStyleSheets = document.adoptedStyleSheets.filter((s) => s !== sheet)
    }
  }, [text])
}
