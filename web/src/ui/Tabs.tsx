import { NavLink } from 'react-router'

export type Tab = readonly [to: string, name: string]

/** The rooms of one part of the house, the open one marked. */
export function Tabs({ label, tabs }: { label: string; tabs: readonly Tab[] }) {
  return (
    <nav aria-label={label} className="no-print border-hair mb-3 flex flex-wrap gap-x-4 border-b font-medium">
      {tabs.map(([to, name]) => (
        <NavLink
          key={to}
          to={to}
          end
          className={({ isActive }) =>
            `py-1.5 ${isActive ? 'border-copper border-b-2' : 'text-ink-2 hover:text-ink border-b-2 border-transparent'}`
          }
        >
          {name}
        </NavLink>
      ))}
    </nav>
  )
}

/** What belongs to the library of machines, and to the catalogue of parts. */
export const MACHINES: readonly Tab[] = [
  ['/machines', 'Machines'],
  ['/processors', 'Processors'],
  ['/sightings', 'Sightings'],
  ['/rules', 'Rules'],
]
export const PARTS: readonly Tab[] = [
  ['/parts', 'Catalogue'],
  ['/parts/shelf', 'Shelf'],
]
