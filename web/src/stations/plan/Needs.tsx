import type { Schemas } from '../../api/client'
import { at, useEdit, useJob } from '../../api/job'
import { Tip } from '../../ui/basics'

type NeedView = Schemas['NeedView']

/** Needs with their weights; the weight moves here, the server answers with the plan. */
export function Needs({ needs }: { needs: readonly NeedView[] }) {
  const { view } = useJob()
  const edit = useEdit()
  const weigh = ({ need }: NeedView, weight: number) => {
    const path = `/intake/needs/${need.kind}`
    const was = (at(view?.job, path) ?? {}) as Partial<Schemas['NeedEdit']>
    edit(path, {
      floor: was.floor ?? null,
      comfort: was.comfort ?? null,
      ceiling: was.ceiling ?? null,
      weight,
    })
  }
  return (
    <div>
      {needs.map((n) => {
        const { need, label, unit } = n
        const figures =
          need.kind === 'fault'
            ? 'mended or not'
            : `${round(need.floor)} · ${round(need.comfort)} · ${round(need.ceiling)} ${unit}`
        return (
          <div key={need.kind + need.slot} className="flex items-center justify-between gap-2 py-[3px]">
            <Tip text={`Floor, comfort, ceiling: ${figures}\nSet by ${need.set_by}`}>
              <button type="button" className={`cursor-help text-left ${need.weight ? '' : 'text-ink-2'}`}>
                {label}
                <span className="text-ink-2 block text-[11.5px]">{need.set_by}</span>
              </button>
            </Tip>
            {need.kind !== 'fault' && (
              <span className="num flex items-center gap-1 whitespace-nowrap">
                <Step
                  label={`${label}: less weight`}
                  sign="−"
                  disabled={need.weight <= 0}
                  onClick={() => weigh(n, Math.max(0, need.weight - 0.5))}
                />
                <span className="w-8 text-center">×{need.weight}</span>
                <Step
                  label={`${label}: more weight`}
                  sign="+"
                  onClick={() => weigh(n, Math.min(100, need.weight + 0.5))}
                />
              </span>
            )}
          </div>
        )
      })}
    </div>
  )
}

function Step({
  label,
  sign,
  disabled,
  onClick,
}: {
  label: string
  sign: string
  disabled?: boolean
  onClick: () => void
}) {
  return (
    <button
      type="button"
      aria-label={label}
      disabled={disabled}
      onClick={onClick}
      className="border-hair bg-card hover:border-ink-2 h-6 w-6 rounded-sm border disabled:opacity-40"
    >
      {sign}
    </button>
  )
}

const round = (x: number) => Math.round(x * 10) / 10
