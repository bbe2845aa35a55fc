import { fieldAt, levelFields, type Level, type Persona } from '@dial/core/level';
import { Folded } from '../controls/Folded.tsx';
import { FieldEditor } from '../fields/FieldEditor.tsx';
import { personaDials } from '../state/document/dialList.ts';
import { setValue } from '../state/document/edits.ts';
import { useAppStore } from '../state/store.ts';
import { DialGroup } from './DialGroup.tsx';

/** The column of the persona that plays the run on the Strip. */
export function PersonaColumn({ level, id, persona }: { readonly level: Level; readonly id: string; readonly persona: Persona }) {
  const store = useAppStore();
  const boosts = fieldAt(levelFields(), level, `/personas/${id}/boosts`);
  return (
    <Folded name="persona" heading={`${persona.name}, who plays this run`} className="mb-4" headingClass="text-base font-bold">
      <p className="my-2 rounded-sm border-l-[3px] border-ink bg-card px-2.5 py-1.5 text-[12.5px]">
        Turn any of these, and the whole session is played anew.
      </p>
      <DialGroup specs={personaDials(level, id)} level={level} />
      {boosts !== null && (
        <FieldEditor
          field={boosts}
          value={persona.boosts}
          label="boosts"
          level={level}
          onSet={(next) => setValue(store, [`/personas/${id}/boosts`], `${persona.name}: boosts`, next)}
        />
      )}
    </Folded>
  );
}
