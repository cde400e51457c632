import { CheckField, ChoiceField } from '../../ui/fields'

/** How this bench goes about it: the steps follow. */
export function Ways() {
  return (
    <details className="no-print card px-3 py-2">
      <summary className="cursor-pointer">How this bench goes about it</summary>
      <div className="mt-2 grid grid-cols-3 gap-3 max-[900px]:grid-cols-1">
        <ChoiceField
          path="/bench/ways/by"
          label="Order"
          options={[
            ['tool', 'tool in hand first'],
            ['manual', 'as the manual has it'],
          ]}
        />
        <ChoiceField
          path="/bench/ways/power"
          label="Power"
          options={[
            ['connector', 'by its connector'],
            ['pack', 'pack taken out'],
            ['firmware', 'firmware switch and connector'],
          ]}
        />
        <ChoiceField
          path="/bench/ways/leads"
          label="Antenna leads"
          options={[
            ['after', 'after seating the card'],
            ['before', 'before seating it'],
          ]}
        />
        <ChoiceField
          path="/bench/ways/solvent"
          label="Isopropyl"
          options={[
            ['99', '99 %: dries at once'],
            ['90', '90 %: milder, dries slower'],
          ]}
        />
        <CheckField path="/bench/ways/trial_before_closing" label="Trial start before the last screws" />
      </div>
    </details>
  )
}
