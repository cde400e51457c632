import type { ReactNode } from 'react'
import type { Schemas } from '../api/client'
import { useWho } from './who'

type Role = Schemas['Who']['role']
/** Each may do what those before it may. */
const ROLES: readonly Role[] = ['bench', 'library', 'owner']

export const mayAs = (role: Role, needed: Role) => ROLES.indexOf(role) >= ROLES.indexOf(needed)

export function useMay(needed: Role): boolean {
  return mayAs(useWho().role, needed)
}

/** What only a role may press. Somebody else is told who does it, in a few words: "Prices are refreshed by …". */
export function May({ role, does, children }: { role: Role; does?: string; children: ReactNode }) {
  if (useMay(role)) return children
  return does ? (
    <span className="text-ink-2 text-[12.5px]">
      {does} {role === 'owner' ? 'an owner.' : 'somebody with the library role, or an owner.'}
    </span>
  ) : null
}
