import { PHASE_WORDS } from '@dial/core/formats';
import { keptAt, phasesOfKind, type Kind, type Level, type Owner } from '@dial/core/level';
import { Check } from '../controls/Check.tsx';
import { sayRefused, setValue } from '../state/document/edits.ts';
import { useAppStore } from '../state/store.ts';
import { entriesOf } from '../fields/fieldInputs.tsx';
import { Select } from '../controls/Select.tsx';

const PHASES = Object.keys(PHASE_WORDS) as (keyof typeof PHASE_WORDS)[];
const SHOWN = ['full', 'faint', 'hidden'] as const;

/** The phases a kind comes through: in each, how it is shown, and whether it is solid and sensing. */
export function PhasesTable({ level, owner, kind }: { readonly level: Level; readonly owner: Owner; readonly kind: Kind }) {
  const store = useAppStore();
  const happens = phasesOfKind(kind);
  const hasFlourishes = Object.keys(level.flourishes).length > 0;
  const set = (phase: string, field: string, value: unknown): void => {
    const paths = keptAt(level, owner, `/kinds/${owner.kind}/phases/${phase}/${field}`);
    sayRefused(store, setValue(store, paths, `${phase}: ${field}`, value));
  };
  return (
    <table className="mt-3 w-full text-left text-xs">
      <thead>
        <tr className="text-[11px] text-soft">
          <th className="py-0.5 font-bold">phase</th>
          <th className="font-semibold">shown</th>
          {kind.solid !== null && <th className="font-semibold">solid</th>}
          <th className="font-semibold">sensing</th>
          {hasFlourishes && <th className="font-semibold">flourish</th>}
        </tr>
      </thead>
      <tbody>
        {PHASES.filter((phase) => happens.has(phase)).map((phase) => (
          <tr key={phase} className="border-t border-line">
            <td className="py-0.5">{PHASE_WORDS[phase]}</td>
            <td>
              <Select
                label={`${PHASE_WORDS[phase]}: shown`}
                value={kind.phases[phase].shown}
                options={SHOWN.map((one) => [one, one])}
                onChoose={(shown) => set(phase, 'shown', shown)}
              />
            </td>
            {(['solid', 'sensing'] as const)
              .filter((field) => field === 'sensing' || kind.solid !== null)
              .map((field) => (
                <td key={field}>
                  <label className="inline-flex cursor-pointer items-center gap-1">
                    <Check
                      label={`${PHASE_WORDS[phase]}: ${field}`}
                      checked={kind.phases[phase][field]}
                      onCheck={(checked) => set(phase, field, checked)}
                    />
                    {kind.phases[phase][field] ? 'yes' : 'no'}
                  </label>
                </td>
              ))}
            {hasFlourishes && (
              <td>
                <Select
                  label={`${PHASE_WORDS[phase]}: flourish`}
                  className="max-w-20"
                  value={kind.phases[phase].flourish ?? ''}
                  options={[['', 'none'], ...entriesOf(level, 'flourishes')]}
                  onChoose={(id) => set(phase, 'flourish', id === '' ? null : id)}
                />
              </td>
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
