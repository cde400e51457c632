/** What each stretch of the work is called. */
export const PHASES: Record<string, string> = {
  'set out': 'Set out',
  open: 'Open',
  exchange: 'Exchange',
  'put back': 'Put back',
  trial: 'Trial start',
  close: 'Close',
  settings: 'With the case shut',
}
