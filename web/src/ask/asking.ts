/** What is asked of a machine that is nobody's job, kept in the address: whose limits count, what is in it, what is put in. */
export type Asking = {
  limits: string
  holds: 'delivered' | 'empty'
  /** What somebody says is in single places, by slot: a number, "" for nothing. */
  has: Readonly<Record<string, string>>
  /** What is put in, by slot. */
  puts: Readonly<Record<string, string>>
  makes: readonly string[]
}

const pairs = (text: string | null) =>
  Object.fromEntries(
    (text ?? '')
      .split(',')
      .filter((p) => p.includes(':'))
      .map((p) => [p.slice(0, p.indexOf(':')), p.slice(p.indexOf(':') + 1)]),
  )

const joined = (of: Readonly<Record<string, string>>) =>
  Object.entries(of)
    .map(([slot, number]) => `${slot}:${number}`)
    .join(',')

/** The address read: what it leaves out is as delivered, by what was proven on a bench. */
export function readAsking(params: URLSearchParams): Asking {
  return {
    limits: params.get('limits') ?? 'proven',
    holds: params.get('holds') === 'empty' ? 'empty' : 'delivered',
    has: pairs(params.get('has')),
    puts: pairs(params.get('puts')),
    makes: (params.get('makes') ?? '').split(',').filter(Boolean),
  }
}

/** As the address has it, without what is as usual. */
export function written(a: Asking): Record<string, string> {
  const all = {
    limits: a.limits === 'proven' ? '' : a.limits,
    holds: a.holds === 'empty' ? 'empty' : '',
    has: joined(a.has),
    puts: joined(a.puts),
    makes: a.makes.join(','),
  }
  return Object.fromEntries(Object.entries(all).filter(([, v]) => v))
}

/** One slot said anew: null takes back what was said. */
export function withSlot(of: Readonly<Record<string, string>>, slot: string, number: string | null) {
  const rest = Object.fromEntries(Object.entries(of).filter(([s]) => s !== slot))
  return number === null ? rest : { ...rest, [slot]: number }
}
