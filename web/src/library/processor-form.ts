import type { Schemas } from '../api/client'

type Processor = Schemas['Processor']

/** The fields of a processor's page as they are typed: an empty one is unknown. */
export const FIELDS = [
  { name: 'name', label: 'Name', hint: 'as the system names it', wide: false },
  { name: 'maker', label: 'Maker', hint: '', wide: false },
  { name: 'cores', label: 'Cores', hint: '', wide: false },
  { name: 'memory_generations', label: 'Memory', hint: '4, 5 for DDR4 and DDR5 modules', wide: false },
  { name: 'channels', label: 'Channels', hint: '', wide: false },
  { name: 'total_limit_gb', label: 'In all at most', hint: 'GB', wide: false },
  { name: 'module_limit_gb', label: 'Largest module', hint: 'GB', wide: false },
  { name: 'speed_mts', label: 'Runs at most', hint: 'MT/s', wide: false },
  { name: 'speeds_by_modules', label: 'Slower with more modules', hint: '3: 3600, 4: 3600', wide: false },
  { name: 'densities_gbit', label: 'Chip densities', hint: 'Gbit: 8, 16', wide: false },
  { name: 'pcie_generation', label: 'PCIe generation', hint: 'a slot may have less', wide: false },
  { name: 'host_radio_generation', label: 'Host radio generation', hint: 'where it has one', wide: false },
  { name: 'companion_radios', label: 'Companion radios', hint: 'numbers; “none” where it takes none', wide: true },
  { name: 'note', label: 'Data sheet', hint: 'where this is from', wide: true },
] as const

export type Form = Record<(typeof FIELDS)[number]['name'], string>

export const BLANK = Object.fromEntries(FIELDS.map((f) => [f.name, ''])) as Form

const words = (text: string) => text.split(/[,;]+/).map((t) => t.trim()).filter(Boolean) // prettier-ignore
/** A whole number; what is none is sent as it was typed, so that the server can say what is wrong with it. */
const figure = (text: string) => (/^\d+$/.test(text.trim()) ? Number(text.trim()) : text.trim() || null)

/** The typed fields as the processor's file holds them. */
export function read(form: Form): Record<keyof Form, unknown> {
  const list = (text: string) => (text.trim() ? words(text).map(figure) : null)
  return {
    name: form.name.trim(),
    maker: form.maker.trim(),
    note: form.note.trim(),
    cores: figure(form.cores),
    channels: figure(form.channels),
    memory_generations: list(form.memory_generations),
    total_limit_gb: figure(form.total_limit_gb),
    module_limit_gb: figure(form.module_limit_gb),
    speed_mts: figure(form.speed_mts),
    speeds_by_modules: Object.fromEntries(
      words(form.speeds_by_modules).map((pair) => {
        const [modules = '', rate = ''] = pair.split(':')
        return [modules.trim(), figure(rate)]
      }),
    ),
    densities_gbit: list(form.densities_gbit) ?? [],
    pcie_generation: figure(form.pcie_generation),
    host_radio_generation: figure(form.host_radio_generation),
    companion_radios: /^none$/i.test(form.companion_radios.trim())
      ? []
      : form.companion_radios.trim()
        ? words(form.companion_radios)
        : null,
  }
}

/** A processor's file as the fields show it. */
export function written(p: Processor): Form {
  const one = (value: unknown) => (value === null || value === undefined ? '' : String(value))
  return {
    name: p.name,
    maker: p.maker,
    note: p.note ?? '',
    cores: one(p.cores),
    channels: one(p.channels),
    memory_generations: (p.memory_generations ?? []).join(', '),
    total_limit_gb: one(p.total_limit_gb),
    module_limit_gb: one(p.module_limit_gb),
    speed_mts: one(p.speed_mts),
    speeds_by_modules: Object.entries(p.speeds_by_modules ?? {}).map(([m, r]) => `${m}: ${r}`).join(', '),
    densities_gbit: (p.densities_gbit ?? []).join(', '),
    pcie_generation: one(p.pcie_generation),
    host_radio_generation: one(p.host_radio_generation),
    companion_radios: p.companion_radios ? p.companion_radios.join(', ') || 'none' : '',
  } // prettier-ignore
}
